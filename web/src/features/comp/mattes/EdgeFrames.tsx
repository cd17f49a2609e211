/** The edge of a matte found ahead, over a range of frames: by workers, so that it plays and goes out at once. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem } from "../../../api/client";
import { compCalls, type EdgesOut } from "../../../api/comps";
import { hasEnded } from "../../../api/jobs";
import { queries } from "../../../api/queries";
import type { Layer } from "../../../domain/comp";
import type { OwnerStep } from "../../../domain/mattes";
import { JobButtons, JobProgress, useSteer } from "../../../parts/job";
import { Button, ProblemNote } from "../../../ui/basics";
import { FrameField } from "../../../ui/FrameField";
import type { DocumentStore } from "../documentStore";
import { text } from "../strings";

const t = text.EdgeFrames;

export function EdgeFrames({ store, layer, step }: { store: DocumentStore; layer: Layer; step: OwnerStep }) {
  const comp = store((s) => s.comp);
  const document = store((s) => s.document);
  const saving = store((s) => s.saving);
  const owner = step === null ? "" : String(step);
  const cache = useQueryClient();
  const searches = useQuery(queries.edges(comp.project, comp.id, comp.revision)).data;
  const last = searches?.find((s) => s.layer === layer.id && s.owner === owner);
  const [typed, setTyped] = useState<{ first?: number; last?: number }>({});
  const held = (frame: number) => Math.max(document.first, Math.min(document.last, Math.round(frame)));
  const first = held(typed.first ?? document.first);
  const range = { first, last: Math.max(first, held(typed.last ?? document.last)) };
  const find = useMutation({
    mutationFn: () => compCalls.findEdges(comp.id, { layer: layer.id, owner, ...range }),
    onSettled: () => cache.invalidateQueries({ queryKey: ["jobs", comp.project] }),
  });
  const going = last !== undefined && !hasEnded(last.job);
  return (
    <div className="mt-1 rounded-md border border-line bg-card px-2 py-1.5" role="group" aria-label={t.ahead}>
      <p className="text-soft">{t.whatItIsFor}</p>
      {!going && (
        <div className="mt-1 flex flex-wrap items-center gap-2">
          <span className="text-soft">{t.frames}</span>
          <FrameField
            name={t.from}
            frame={range.first}
            onGo={(frame) => setTyped({ ...typed, first: frame })}
          />
          <span aria-hidden>–</span>
          <FrameField name={t.to} frame={range.last} onGo={(frame) => setTyped({ ...typed, last: frame })} />
          <Button disabled={find.isPending || saving} onClick={() => find.mutate()}>
            {t.find}
          </Button>
        </div>
      )}
      {find.error && <ProblemNote problem={asProblem(find.error)} />}
      {last && <Found row={last} project={comp.project} />}
    </div>
  );
}

function Found({ row, project }: { row: EdgesOut; project: number }) {
  const { steer, busy, problem } = useSteer(row.job, project);
  const { job } = row;
  return (
    <div className="mt-1" data-state={job.state}>
      {hasEnded(job) ? (
        <p className={job.state === "done" && row.of_now ? "" : "text-soft"}>
          {job.state === "done" ? t.found(row.first, row.last) : t.foundInPart(job.written, job.count)}{" "}
          {!row.of_now && t.changedSince}
        </p>
      ) : (
        <JobProgress job={job} name={t.ahead} written={t.foundIn} />
      )}
      {job.problem && <ProblemNote problem={job.problem} />}
      {problem && <ProblemNote problem={problem} />}
      {job.state !== "done" && (
        <div className="mt-1 flex flex-wrap gap-1">
          <JobButtons job={job} stays={t.stays} steer={steer} busy={busy} />
        </div>
      )}
    </div>
  );
}
