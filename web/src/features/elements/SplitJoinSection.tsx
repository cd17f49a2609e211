/** What an element carries along from other files, parting it in two, and which channels are data. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls, type PartIn } from "../../api/elements";
import { Button, ProblemNote, SignButton } from "../../ui/basics";
import { Ask, TextField } from "../../ui/Ask";
import { Choose } from "../../ui/Choose";
import { Segments } from "../../ui/Segments";
import { Tick } from "../../ui/Tick";
import { Section } from "./Section";
import { channelsOf } from "./channels";
import { text } from "./strings";

const t = text.SplitJoinSection;

type Kinds = ElementOut["kinds"];

interface Props {
  element: ElementOut;
  rows: ElementOut[];
  project: number;
  onKinds: (kinds: Kinds) => void;
}

export function SplitJoinSection({ element, rows, onKinds }: Props) {
  const [adding, setAdding] = useState(false);
  const drop = useMutation({ mutationFn: (name: string) => elementCalls.drop(element.id, name) });
  const part = useMutation({ mutationFn: () => elementCalls.partInTwo(element.id) });
  const problem = drop.error ?? part.error;
  return (
    <Section title={t.channelsOfOtherFiles}>
      {element.parts.map((p) => (
        <div key={p.name} className="flex items-center gap-1.5">
          <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">
            <span className="font-medium">{p.name === "A" ? t.alpha : p.name}</span>{" "}
            <span className="text-soft">
              {t.from}
              {p.channel && t.ofWord(p.channel)}
              {rows.find((r) => r.id === p.element)?.name ?? t.anElement}
              {p.inverted && t.inverted}
              {p.offset !== 0 && t.frames(Math.abs(p.offset), p.offset > 0 ? "later" : "earlier")}
            </span>
          </span>
          {element.only === null && (
            <SignButton name={t.carryNoLonger(p.name)} onClick={() => drop.mutate(p.name)}>
              <X className="size-3.5" />
            </SignButton>
          )}
        </div>
      ))}
      <div className="mt-1 flex flex-wrap gap-1.5">
        <Button onClick={() => setAdding(true)}>{t.takeAnAlphaOrA}</Button>
        {element.facts?.alpha && (
          <Button disabled={part.isPending} onClick={() => part.mutate()}>
            {t.splitRgbAndAlpha}
          </Button>
        )}
      </div>
      <KindTicks element={element} onKinds={onKinds} />
      {problem && <ProblemNote problem={asProblem(problem)} />}
      {adding && <Adding element={element} rows={rows} onClose={() => setAdding(false)} />}
    </Section>
  );
}

/** Colour or data, channel by channel: data is never decoded, never multiplied. */
function KindTicks({ element, onKinds }: { element: ElementOut; onKinds: (kinds: Kinds) => void }) {
  const [open, setOpen] = useState(false);
  const own = new Set(element.facts?.channels.map((c) => c.name));
  const channels = channelsOf(element).filter((c) => own.has(c.name) && c.name !== "A");
  const data = channels.filter((c) => c.data).map((c) => c.name);
  return (
    <div className="mt-1.5">
      <button
        type="button"
        aria-expanded={open}
        className="text-left text-soft underline decoration-line underline-offset-2"
        onClick={() => setOpen(!open)}
      >
        {data.length === 0
          ? t.everyChannelIsColour
          : data.length === channels.length
            ? t.everyChannelIsData
            : t.data(data.join(", "))}
      </button>
      {open && (
        <div className="mt-1 grid grid-cols-2 gap-x-3">
          {channels.map((c) => (
            <Tick
              key={c.name}
              label={t.isData(c.name)}
              checked={c.data}
              onChange={(on) => onKinds({ ...element.kinds, [c.name]: on ? "data" : "colour" })}
            />
          ))}
        </div>
      )}
    </div>
  );
}

function Adding({
  element,
  rows,
  onClose,
}: {
  element: ElementOut;
  rows: ElementOut[];
  onClose: () => void;
}) {
  const others = rows.filter((r) => r.id !== element.id && r.state === "ready" && r.parts.length === 0);
  const [source, setSource] = useState(others[0]?.id ?? 0);
  const [as, setAs] = useState<"alpha" | "other">("alpha");
  const [name, setName] = useState("depth.Z");
  const [channel, setChannel] = useState("");
  const [ends, setEnds] = useState<NonNullable<PartIn["ends"]>>("hold");
  const [inverted, setInverted] = useState(false);
  const [offset, setOffset] = useState("0");
  const remarks = useQuery({
    queryKey: ["remarks", element.id, source],
    queryFn: () => elementCalls.remarks(element.id, source),
    enabled: source > 0,
  });
  const carry = useMutation({
    mutationFn: () =>
      elementCalls.carry(element.id, {
        source,
        name: as === "alpha" ? "A" : name,
        channel,
        ends,
        inverted,
        offset: Number(offset) || 0,
        data: as === "other",
      }),
    onSuccess: onClose,
  });
  const chosen = others.find((r) => r.id === source);
  return (
    <Ask title={t.anExtraChannelFor(element.name)} open onClose={onClose}>
      {others.length === 0 ? (
        <p>{t.importTheFileThatHolds}</p>
      ) : (
        <div className="space-y-2.5">
          <Line label={t.from2}>
            <Choose
              name={t.elementItIsTakenFrom}
              value={String(source)}
              options={others.map((r) => ({ value: String(r.id), label: r.name }))}
              onChange={(v) => {
                setSource(Number(v));
                setChannel("");
              }}
            />
          </Line>
          <Line label={t.its}>
            <Choose
              name={t.channelItIsTakenFrom}
              value={channel || "grey"}
              options={[
                { value: "grey", label: t.greyLumaOfAColour },
                ...(chosen?.facts?.channels ?? []).map((c) => ({ value: c.name, label: c.name })),
              ]}
              onChange={(v) => setChannel(v === "grey" ? "" : v)}
            />
          </Line>
          <Line label={t.becomes}>
            <Segments
              name={t.whatItBecomes}
              value={as}
              choices={[
                { value: "alpha", label: t.theAlpha },
                { value: "other", label: t.aDataChannel },
              ]}
              onChange={setAs}
            />
          </Line>
          {as === "other" && <TextField label={t.named} value={name} onChange={setName} />}
          <Line label={t.whereItEnds}>
            <Segments
              name={t.whereItHasNoFrame}
              value={ends}
              choices={[
                { value: "hold", label: t.hold },
                { value: "blank", label: t.nothing },
                { value: "error", label: t.error },
              ]}
              onChange={setEnds}
            />
          </Line>
          <Line label={t.startsLaterBy}>
            <input
              aria-label={t.startsLaterByInFrames}
              inputMode="numeric"
              value={offset}
              onChange={(event) => setOffset(event.target.value)}
              className="num h-7 w-16 rounded-md border border-line bg-card px-1.5 text-right"
            />
            <span className="text-soft">{t.frames2}</span>
          </Line>
          <Tick label={t.inverted1Becomes0} checked={inverted} onChange={setInverted} />
          {remarks.data?.remarks.map((r) => (
            <p key={r} className={remarks.data.blocked ? "text-error" : "text-warn"}>
              {r}
            </p>
          ))}
          {remarks.data && remarks.data.remarks.length === 0 && (
            <p className="text-soft">{t.sizesLengthsAndRatesAgree}</p>
          )}
          {carry.error && <ProblemNote problem={asProblem(carry.error)} />}
        </div>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>{t.cancel}</Button>
        <Button
          kind="main"
          disabled={carry.isPending || others.length === 0 || remarks.data?.blocked}
          onClick={() => carry.mutate()}
        >
          {t.joinIt}
        </Button>
      </div>
    </Ask>
  );
}

function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex items-center gap-2">
      <span className="w-28 shrink-0 text-soft">{label}</span>
      {children}
    </div>
  );
}
