/** Arrivals that broke off: go on by dropping the same files again, import the received files, or discard them. */
import { useMutation, useQuery } from "@tanstack/react-query";
import type { ArrivalOut } from "../../api/importFiles";
import { asProblem } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { queries } from "../../api/queries";
import { useImporting } from "../../parts/importing";
import { bytesInWords } from "../../domain/words";
import { Button, ProblemNote } from "../../ui/basics";
import { useRefresh } from "./useRefresh";
import { text } from "./strings";

const t = text.UnfinishedImports;

export function UnfinishedImports({ project }: { project: number }) {
  const arrivals = useQuery(queries.arrivals(project));
  const busy = useImporting((s) => s.state !== null);
  if (busy) return null;
  return arrivals.data?.map((a) => <One key={a.id} arrival={a} project={project} />);
}

function One({ arrival, project }: { arrival: ArrivalOut; project: number }) {
  const again = useRefresh(project);
  const finish = useMutation({ mutationFn: () => elementCalls.finish(arrival.id), onSettled: again });
  const giveUp = useMutation({ mutationFn: () => elementCalls.giveUp(arrival.id), onSettled: again });
  const whole = arrival.files.filter((f) => f.whole).length;
  const bytes = arrival.files.reduce((sum, f) => sum + f.bytes, 0);
  const all = arrival.expected.reduce((sum, f) => sum + f.bytes, 0);
  const name = arrival.expected[0]?.name ?? "files";
  const problem = finish.error ?? giveUp.error;
  return (
    <section aria-label={t.filesThatHaveNotAll} className="border-b border-line bg-card px-3 py-2">
      <p className="[overflow-wrap:anywhere]">
        <span className="font-medium">{name}</span>
        {arrival.expected.length > 1 && t.andMore(arrival.expected.length - 1)}
        {t.brokeOff(whole, arrival.expected.length, bytesInWords(bytes), bytesInWords(all))}
      </p>
      <p className="text-soft">{t.dropTheSameFilesAgain}</p>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {whole > 0 && (
          <Button disabled={finish.isPending} onClick={() => finish.mutate()}>
            {t.importReceivedFiles}
          </Button>
        )}
        <Button kind="quiet" disabled={giveUp.isPending} onClick={() => giveUp.mutate()}>
          {t.discard}
        </Button>
      </div>
      {problem && <ProblemNote problem={asProblem(problem)} />}
    </section>
  );
}
