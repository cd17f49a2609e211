/** Writing elements anew in another codec or as frames, and how far that is. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls, type RewriteOut } from "../../api/elements";
import { queries } from "../../api/queries";
import { partsOfEncoding } from "../../domain/encoding";
import { Button, ProblemNote, ProgressBar, SignButton } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { Tick } from "../../ui/Tick";
import { Section } from "./Section";

export function TranscodeSection({ elements, project }: { elements: ElementOut[]; project: number }) {
  const forms = useQuery(queries.rewriteForms());
  const rewrites = useQuery(queries.rewrites(project));
  const [form, setForm] = useState("");
  const [mayGo, setMayGo] = useState(false);
  const [takeOver, setTakeOver] = useState(false);
  const alpha = elements.some((e) => e.has_alpha);
  const offered = (forms.data ?? []).filter(
    (f) =>
      (f.alpha || !alpha || mayGo) &&
      (f.kind === "frames" || elements.every((e) => e.facts?.kind !== "still")),
  );
  const chosen = offered.find((f) => f.name === form) ?? offered[0];
  const order = useMutation({
    mutationFn: () =>
      elementCalls.rewrite({
        elements: elements.map((e) => e.id),
        form: chosen!.name,
        loss_accepted: mayGo,
        take_over: takeOver,
      }),
  });
  const losses = useQuery({
    queryKey: ["rewrite-losses", chosen?.name, elements.map((e) => [e.id, e.facts?.bytes, e.parts.length])],
    queryFn: () =>
      elementCalls.losses(
        elements.map((e) => e.id),
        chosen!.name,
      ),
    enabled: chosen !== undefined && elements.every((e) => e.state === "ready"),
  });
  const dropped = (losses.data ?? []).filter((l) => l.dropped.length > 0);
  const narrowed = [...new Set((losses.data ?? []).flatMap((l) => l.narrowed))];
  const own = (rewrites.data ?? []).filter((r) => elements.some((e) => e.id === r.element));
  return (
    <Section title="Transcode">
      {chosen && (
        <div className="space-y-1.5">
          <div className="flex items-center gap-2">
            <span className="w-12 shrink-0 text-soft">as</span>
            <Choose
              name="Transcode to"
              value={chosen.name}
              options={offered.map((f) => ({
                value: f.name,
                label: f.title,
                group: f.kind === "movie" ? "Movies" : "Frames",
              }))}
              onChange={setForm}
            />
          </div>
          <p className="text-soft">{chosen.help}</p>
          {!chosen.floating && elements.some((e) => partsOfEncoding(e.encoding).transfer === "linear") && (
            <p className="text-soft">
              Linear light is written as sRGB code values with straight alpha: in integers it would band.
            </p>
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
            <Tick
              label="What a form cannot hold may go: offer forms without alpha too"
              checked={mayGo}
              onChange={setMayGo}
            />
          )}
          <Tick
            label="Put it in place of the old one in every use"
            checked={takeOver}
            onChange={setTakeOver}
          />
          <Button disabled={order.isPending || (dropped.length > 0 && !mayGo)} onClick={() => order.mutate()}>
            Transcode{elements.length > 1 ? ` all ${elements.length}` : ""}
          </Button>
          {order.error && <ProblemNote problem={asProblem(order.error)} />}
        </div>
      )}
      {own.map((r) => (
        <RewriteRow key={r.id} row={r} name={elements.find((e) => e.id === r.element)?.name ?? ""} />
      ))}
    </Section>
  );
}

const STATE: Record<RewriteOut["state"], string> = {
  queued: "waits for its turn",
  writing: "being written",
  checking: "every frame is compared",
  done: "written and checked",
  failed: "not done",
  cancelled: "cancelled",
};

function RewriteRow({ row, name }: { row: RewriteOut; name: string }) {
  const active = ["queued", "writing", "checking"].includes(row.state);
  const cancel = useMutation({ mutationFn: () => elementCalls.cancelRewrite(row.id) });
  const forget = useMutation({ mutationFn: () => elementCalls.forgetRewrite(row.id) });
  const code = (v: number) => (v * 255).toFixed(v * 255 < 0.01 ? 4 : 2);
  return (
    <div className="mt-2 rounded-md border border-line bg-card px-2 py-1.5">
      <div className="flex items-start justify-between gap-2">
        <p className="min-w-0 [overflow-wrap:anywhere]">
          <span className="block text-soft">{name}</span>
          <span className="font-medium">{row.title}</span>{" "}
          <span className="text-soft">{STATE[row.state]}</span>
        </p>
        {active ? (
          <Button className="min-h-6 py-0" disabled={cancel.isPending} onClick={() => cancel.mutate()}>
            Cancel
          </Button>
        ) : (
          <SignButton name="Remove from list" onClick={() => forget.mutate()}>
            <X className="size-3.5" />
          </SignButton>
        )}
      </div>
      {active && (
        <div className="mt-1 flex items-center gap-2">
          <span className="num shrink-0 text-soft">
            {row.done} of {row.count}
          </span>
          <ProgressBar done={row.done} total={row.count} name={`${row.title}, ${STATE[row.state]}`} />
        </div>
      )}
      {row.check && (
        <p className="text-soft">
          {row.check.frames_after} of {row.check.frames_before} frames; colour off by{" "}
          <span className="num">{code(row.check.colour_mean)}</span> in the mean,{" "}
          <span className="num">{code(row.check.colour_most)}</span> at most; alpha{" "}
          <span className="num">{code(row.check.alpha_most)}</span> at most, of 255.
        </p>
      )}
      {row.problem && <ProblemNote problem={row.problem} />}
    </div>
  );
}
