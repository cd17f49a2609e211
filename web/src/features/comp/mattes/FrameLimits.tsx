/** The frames on which a matte, or a part of it, counts. */
import { NumberField } from "../../../ui/NumberField";

interface Frames {
  first: number | null;
  last: number | null;
}

interface Props {
  value: Frames;
  /** The frames of the comp. */
  within: { first: number; last: number };
  onChange: (frames: Frames) => void;
}

/** At the comp's own first or last frame there is no limit on that side. */
export function FrameLimits({ value, within, onChange }: Props) {
  const first = value.first ?? within.first;
  const last = value.last ?? within.last;
  const limited = (frame: number, end: number) => (Math.round(frame) === end ? null : Math.round(frame));
  return (
    <>
      <NumberField
        name="in frame"
        help="First frame on which it counts; a double click takes the limit off."
        value={first}
        min={-1000000}
        max={last}
        step={1}
        digits={0}
        rest={within.first}
        onCommit={(v) => onChange({ first: limited(v, within.first), last: value.last })}
      />
      <NumberField
        name="out frame"
        help="Last frame on which it counts; a double click takes the limit off."
        value={last}
        min={first}
        max={1000000}
        step={1}
        digits={0}
        rest={within.last}
        onCommit={(v) => onChange({ first: value.first, last: limited(v, within.last) })}
      />
    </>
  );
}
