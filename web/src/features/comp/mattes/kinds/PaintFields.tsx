/** Paint: the brush, and the strokes that are seen at this frame. */
import { Brush as BrushSign, Trash2 } from "lucide-react";
import type { Stroke } from "../../../../domain/mattes";
import { trimmed } from "../../../../domain/words";
import { Button, SignButton } from "../../../../ui/basics";
import { FrameField } from "../../../../ui/FrameField";
import { NumberField } from "../../../../ui/NumberField";
import { Segments } from "../../../../ui/Segments";
import { useDesk, useDeskFields, type Brush } from "../../deskState";
import { Line, type FieldsProps } from "./fields";
import { text } from "../../strings";

const t = text.PaintFields;

/** Strokes that are listed at most: the newest ones. */
const LISTED = 12;

const seen = (s: Stroke, frame: number) =>
  (s.first === null || frame >= s.first) && (s.last === null || frame <= s.last);

const framesOf = (s: Stroke) =>
  s.first === null && s.last === null
    ? t.allFrames
    : s.first === s.last
      ? `frame ${s.first}`
      : t.framesTo(s.first ?? "start", s.last ?? "end");

export function PaintFields({ owner, part, index, set }: FieldsProps<"paint">) {
  const { tool, brush, frame } = useDeskFields("tool", "brush", "frame");
  const on = tool?.kind === "paint" && tool.part === index && tool.owner.step === owner.step;
  const change = (next: Partial<Brush>) => useDesk.setState({ brush: { ...brush, ...next } });
  const strokes = part.strokes
    .map((stroke, at) => ({ stroke, at }))
    .filter(({ stroke }) => seen(stroke, frame))
    .reverse();
  const edit = (at: number, next: Stroke | null, what: string) =>
    set({ strokes: part.strokes.flatMap((s, i) => (i === at ? (next ? [next] : []) : [s])) }, what);
  return (
    <>
      <Button
        kind={on ? "plain" : "main"}
        aria-pressed={on}
        className="min-h-6 px-2 py-0"
        onClick={() => useDesk.setState({ tool: on ? null : { kind: "paint", owner, part: index } })}
      >
        <BrushSign className="size-3.5" /> {on ? t.donePainting : t.paintOnThePicture}
      </Button>
      <Line name={t.brush}>
        <Segments
          name={t.whatTheBrushDoes}
          small
          value={brush.erase ? "erase" : brush.value === 0 ? "remove" : "keep"}
          choices={[
            { value: "keep", label: t.keep, tip: t.whiteOrTheGreyBelow },
            { value: "remove", label: t.remove, tip: t.black },
            { value: "erase", label: t.erase, tip: t.takesStrokesAway },
          ]}
          onChange={(what) =>
            change({ erase: what === "erase", value: what === "remove" ? 0 : brush.value || 1 })
          }
        />
      </Line>
      <NumberField
        name={t.size}
        value={brush.size}
        min={0.5}
        max={2000}
        step={1}
        digits={1}
        slider={[1, 300]}
        unit="px"
        rest={40}
        onDraft={(size) => change({ size })}
        onCommit={(size) => change({ size })}
      />
      <NumberField
        name={t.soft}
        value={brush.soft}
        min={0}
        max={1}
        slider={[0, 1]}
        rest={0.3}
        onDraft={(soft) => change({ soft })}
        onCommit={(soft) => change({ soft })}
      />
      {!brush.erase && (
        <NumberField
          name={t.grey}
          help={t.n1Keeps0Removes}
          value={brush.value}
          min={0}
          max={1}
          slider={[0, 1]}
          rest={1}
          onDraft={(value) => change({ value })}
          onCommit={(value) => change({ value })}
        />
      )}
      <Line name="on">
        <Segments
          name={t.framesOfNewStrokes}
          small
          value={Array.isArray(brush.span) ? "range" : brush.span}
          choices={[
            { value: "frame", label: t.thisFrame },
            { value: "range", label: t.aRange },
            { value: "all", label: t.all },
          ]}
          onChange={(span) => change({ span: span === "range" ? [frame, frame + 10] : span })}
        />
      </Line>
      {Array.isArray(brush.span) && (
        <Line name={t.frames}>
          <Ends
            first={brush.span[0]}
            last={brush.span[1]}
            onChange={(first, last) => change({ span: [first, last] })}
          />
        </Line>
      )}
      <p className="pt-1 text-soft">
        {part.strokes.length === 0
          ? t.noStrokesYet
          : t.ofStrokesAreSeenAt(strokes.length, part.strokes.length, frame)}
      </p>
      <ul aria-label={t.strokesAtThisFrame} className="max-h-48 space-y-0.5 overflow-auto">
        {strokes.slice(0, LISTED).map(({ stroke, at }) => (
          <li key={at} className="rounded border border-line bg-card px-1.5 py-0.5">
            <div className="flex items-center gap-1">
              <span
                aria-hidden
                className="size-3 shrink-0 rounded-full border border-soft"
                style={{
                  background: stroke.erase
                    ? "transparent"
                    : `rgb(${[0, 0, 0].map(() => stroke.value * 255).join(" ")})`,
                }}
              />
              <span className="min-w-0 flex-1 truncate">
                {stroke.erase
                  ? t.erases
                  : stroke.value === 1
                    ? t.keeps
                    : stroke.value === 0
                      ? t.removes
                      : t.grey2(trimmed(stroke.value, 2))}
                , {trimmed(stroke.size, 1)}
                {t.px}
                {framesOf(stroke)}
              </span>
              <SignButton
                name={t.takeStrokeOut(at + 1)}
                className="!min-h-6"
                onClick={() => edit(at, null, t.strokeTakenOut)}
              >
                <Trash2 className="size-3.5" />
              </SignButton>
            </div>
            {stroke.first !== null && stroke.last !== null && (
              <div className="flex items-center gap-1">
                <Ends
                  first={stroke.first}
                  last={stroke.last}
                  onChange={(first, last) => edit(at, { ...stroke, first, last }, t.framesOfAStroke)}
                />
                <Button
                  className="min-h-6 px-1 py-0"
                  title={t.seenFromThisFrameOn}
                  onClick={() =>
                    edit(
                      at,
                      { ...stroke, first: frame, last: frame + stroke.last! - stroke.first! },
                      t.strokeMovedInTime,
                    )
                  }
                >
                  {t.toHere}
                </Button>
              </div>
            )}
          </li>
        ))}
      </ul>
      {strokes.length > LISTED && <p className="text-soft">{t.andOlderOnes(strokes.length - LISTED)}</p>}
    </>
  );
}

function Ends({
  first,
  last,
  onChange,
}: {
  first: number;
  last: number;
  onChange: (first: number, last: number) => void;
}) {
  return (
    <span className="flex items-center gap-1">
      <FrameField name={t.firstFrameOfTheStroke} frame={first} onGo={(v) => onChange(v, Math.max(v, last))} />
      <span className="text-soft">{t.to}</span>
      <FrameField name={t.lastFrameOfTheStroke} frame={last} onGo={(v) => onChange(Math.min(first, v), v)} />
    </span>
  );
}
