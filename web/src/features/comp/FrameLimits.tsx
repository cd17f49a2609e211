/** The frames on which a layer is there, or a matte or a part of it counts. */
import { NumberField } from "../../ui/NumberField";
import { text } from "./strings";

const t = text.FrameLimits;

interface Frames {
  first: number | null;
  last: number | null;
}

interface Props {
  value: Frames;
  /** The frames of the comp. */
  within: { first: number; last: number };
  /** Whether to say what the fields do. */
  helped?: boolean;
  onChange: (frames: Frames, which: "in frame" | "out frame") => void;
}

/** At the comp's own first or last frame there is no limit on that side. */
export function FrameLimits({ value, within, helped = false, onChange }: Props) {
  const first = value.first ?? within.first;
  const last = value.last ?? within.last;
  const limited = (frame: number, end: number) => (Math.round(frame) === end ? null : Math.round(frame));
  return (
    <>
      <NumberField
        name={t.inFrame}
        help={helped ? t.firstFrameOnWhichIt : undefined}
        value={first}
        min={-1000000}
        max={last}
        step={1}
        digits={0}
        rest={within.first}
        onCommit={(v) => onChange({ first: limited(v, within.first), last: value.last }, "in frame")}
      />
      <NumberField
        name={t.outFrame}
        help={helped ? t.lastFrameOnWhichIt : undefined}
        value={last}
        min={first}
        max={1000000}
        step={1}
        digits={0}
        rest={within.last}
        onCommit={(v) => onChange({ first: value.first, last: limited(v, within.last) }, "out frame")}
      />
    </>
  );
}
