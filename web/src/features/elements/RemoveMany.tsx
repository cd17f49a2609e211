/** Several elements taken out of the project at once, after a question: their files go too. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { bytesInWords, counted } from "../../domain/words";
import { Ask } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { text } from "./strings";

const t = text.RemoveMany;

interface Props {
  rows: ElementOut[];
  project: number;
  /** How many there are, unless it is told otherwise. */
  label?: string;
  onRemoved?: () => void;
}

export function RemoveMany({ rows, project, label, onRemoved }: Props) {
  const [asking, setAsking] = useState(false);
  const cache = useQueryClient();
  const remove = useMutation({
    mutationFn: () => elementCalls.remove(rows.map((r) => r.id)),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["elements", project] });
      setAsking(false);
      onRemoved?.();
    },
  });
  const count = counted(rows.length, "element");
  return (
    <>
      <Button onClick={() => setAsking(true)}>{label ?? t.remove(count)}</Button>
      <Ask title={t.ask(count)} open={asking} onClose={() => setAsking(false)}>
        <ul className="mb-2 max-h-48 overflow-auto rounded-md border border-line bg-card px-2.5 py-1.5">
          {rows.map((r) => (
            <li key={r.id} className="[overflow-wrap:anywhere]">
              {r.name}
            </li>
          ))}
        </ul>
        <p className="text-soft">{t.filesGo}</p>
        {remove.error && <ProblemNote problem={asProblem(remove.error)} />}
        <div className="mt-4 flex justify-end gap-2">
          <Button autoFocus onClick={() => setAsking(false)}>
            {t.cancel}
          </Button>
          <Button kind="main" disabled={remove.isPending} onClick={() => remove.mutate()}>
            {t.doIt}
          </Button>
        </div>
      </Ask>
    </>
  );
}

/** Above a list of those that nothing uses. */
export function Unused({ rows, project }: { rows: ElementOut[]; project: number }) {
  const bytes = rows.reduce((sum, r) => sum + (r.facts?.bytes ?? 0), 0);
  return (
    <div className="space-y-1.5 border-b border-line p-2">
      <p className="text-soft">{t.notUsed(counted(rows.length, "element"), bytesInWords(bytes))}</p>
      <RemoveMany rows={rows} project={project} label={t.removeAll} />
    </div>
  );
}
