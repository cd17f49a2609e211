/** Transcoding elements to another codec or to frames, and how far that is. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls, type TranscodeOut } from "../../api/elements";
import { hasEnded } from "../../api/jobs";
import { queries } from "../../api/queries";
import { partsOfEncoding } from "../../domain/encoding";
import { JobButtons, JobProgress, useSteer } from "../../parts/job";
import { Button, ProblemNote } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { Tick } from "../../ui/Tick";
import { Section } from "./Section";
import { text } from "./strings";

const t = text.TranscodeSection;

export function TranscodeSection({ elements, project }: { elements: ElementOut[]; project: number }) {
  const formats = useQuery(queries.transcodeFormats());
  const transcodes = useQuery(queries.transcodes(project));
  const [format, setFormat] = useState("");
  const [mayGo, setMayGo] = useState(false);
  const [takeOver, setTakeOver] = useState(false);
  const alpha = elements.some((e) => e.has_alpha);
  const offered = (formats.data ?? []).filter(
    (f) =>
      (f.alpha || !alpha || mayGo) &&
      (f.kind === "frames" || elements.every((e) => e.facts?.kind !== "still")),
  );
  const chosen =
    offered.find((f) => f.name === format) ??
    (elements.some((e) => e.holds) ? offered.find((f) => f.floating) : undefined) ??
    offered[0];
  const order = useMutation({
    mutationFn: () =>
      elementCalls.transcode({
        elements: elements.map((e) => e.id),
        format: chosen!.name,
        loss_accepted: mayGo,
        take_over: takeOver,
      }),
  });
  const losses = useQuery({
    queryKey: ["transcode-losses", chosen?.name, elements.map((e) => [e.id, e.facts?.bytes, e.parts.length])],
    queryFn: () =>
      elementCalls.losses(
        elements.map((e) => e.id),
        chosen!.name,
      ),
    enabled: chosen !== undefined && elements.every((e) => e.state === "ready"),
  });
  const dropped = (losses.data ?? []).filter((l) => l.dropped.length > 0);
  const narrowed = [...new Set((losses.data ?? []).flatMap((l) => l.narrowed))];
  const own = (transcodes.data ?? []).filter((r) => elements.some((e) => e.id === r.element));
  return (
    <Section title={t.transcode}>
      {chosen && (
        <div className="space-y-1.5">
          <div className="flex items-center gap-2">
            <span className="w-12 shrink-0 text-soft">{t.as}</span>
            <Choose
              name={t.transcodeTo}
              value={chosen.name}
              options={offered.map((f) => ({
                value: f.name,
                label: f.title,
                group: f.kind === "movie" ? t.movies : t.frames,
              }))}
              onChange={setFormat}
            />
          </div>
          <p className="text-soft">{chosen.help}</p>
          {!chosen.floating &&
            elements.some((e) => !e.holds && partsOfEncoding(e.encoding).transfer === "linear") && (
              <p className="text-soft">{t.linearLightIsWrittenAs}</p>
            )}
          {narrowed.map((sentence) => (
            <p key={sentence} className="text-soft">
              {sentence}
            </p>
          ))}
          {dropped.map((l) => (
            <p key={l.element} role="note" className="text-warn [overflow-wrap:anywhere]">
              {elements.length > 1 && `${elements.find((e) => e.id === l.element)?.name}: `}
              {l.dropped.join(" ")}
            </p>
          ))}
          {(alpha || dropped.length > 0) && (
            <Tick label={t.whatAFormatCannotHold} checked={mayGo} onChange={setMayGo} />
          )}
          <Tick label={t.putItInPlaceOf} checked={takeOver} onChange={setTakeOver} />
          <Button disabled={order.isPending || (dropped.length > 0 && !mayGo)} onClick={() => order.mutate()}>
            {t.transcode2(elements.length > 1 ? t.all(elements.length) : "")}
          </Button>
          {order.error && <ProblemNote problem={asProblem(order.error)} />}
        </div>
      )}
      {own.map((r) => (
        <TranscodeRow
          key={r.id}
          row={r}
          project={project}
          name={elements.find((e) => e.id === r.element)?.name ?? ""}
        />
      ))}
    </Section>
  );
}

const STATE: Record<TranscodeOut["job"]["state"], string> = {
  queued: t.waitsForItsTurn,
  running: t.beingWritten,
  finishing: t.everyFrameIsCompared,
  paused: "paused",
  done: t.writtenAndChecked,
  failed: t.notDone,
  cancelled: "cancelled",
};

function TranscodeRow({ row, project, name }: { row: TranscodeOut; project: number; name: string }) {
  const { steer, busy, problem } = useSteer(row.job, project);
  const code = (v: number) => (v * 255).toFixed(v * 255 < 0.01 ? 4 : 2);
  const state = STATE[row.job.state];
  return (
    <div data-state={row.job.state} className="mt-2 rounded-md border border-line bg-card px-2 py-1.5">
      <p className="min-w-0 [overflow-wrap:anywhere]">
        <span className="block text-soft">{name}</span>
        <span className="font-medium">{row.title}</span> <span className="text-soft">{state}</span>
      </p>
      {!hasEnded(row.job) && (
        <JobProgress job={row.job} name={`${row.title}, ${state}`} written="written" checked="compared" />
      )}
      {row.check && (
        <p className="text-soft">
          {t.framesKept(row.check.frames_after, row.check.frames_before)}{" "}
          <span className="num">
            {t.compared(code(row.check.colour_mean), code(row.check.colour_most), code(row.check.alpha_most))}
          </span>
        </p>
      )}
      {row.job.problem && <ProblemNote problem={row.job.problem} />}
      {problem && <ProblemNote problem={problem} />}
      <div className="mt-1 flex flex-wrap gap-1">
        <JobButtons job={row.job} stays={t.whatStays} steer={steer} busy={busy} />
      </div>
    </div>
  );
}
