/** Which frames go out, how large, how fast, and numbered from where. */
import type { OrderDraft } from "../../domain/order";
import type { Take } from "../../api/orders";
import { TextField } from "../../ui/Ask";
import { Choose } from "../../ui/Choose";
import { Line } from "../../ui/Line";
import { Segments } from "../../ui/Segments";
import { text } from "./strings";

const t = text.TakeFields;

/** What a comp or an element has by itself. */
export interface Own {
  first: number;
  last: number;
  rate: string;
  width: number;
  height: number;
}

interface Props {
  draft: OrderDraft;
  onDraft: (draft: OrderDraft) => void;
  /** Of the only comp or element; null where several go out. */
  own: Own | null;
}

export function TakeFields({ draft, onDraft, own }: Props) {
  const { take } = draft;
  const change = (part: Partial<Take>) => onDraft({ ...draft, take: { ...take, ...part } });
  const otherRate = take.rate.trim() !== "" && take.rate.trim() !== own?.rate;
  return (
    <div className="space-y-1.5">
      <div className="grid grid-cols-3 gap-2">
        <TextField
          label={t.frames}
          value={take.frames}
          onChange={(frames) => change({ frames })}
          placeholder={own ? (own.first === own.last ? `${own.first}` : `${own.first}-${own.last}`) : t.all}
        />
        <TextField
          label={t.frameRateFps}
          value={take.rate}
          onChange={(rate) => change({ rate })}
          placeholder={own?.rate ?? t.itsOwn}
        />
        <TextField
          label={t.numberedFrom}
          value={take.start === null ? "" : String(take.start)}
          onChange={(typed) => change({ start: whole(typed, take.start) })}
          placeholder={own ? String(own.first) : t.itsOwn}
        />
      </div>
      {otherRate && (
        <Line label={t.atThatRate}>
          <Segments<Take["timing"]>
            name={t.atThatRate}
            tight
            value={take.timing}
            choices={[
              { value: "frames", label: t.sameFrames, tip: t.sameFramesTip },
              { value: "time", label: t.sameTime, tip: t.sameTimeTip },
            ]}
            onChange={(timing) => change({ timing })}
          />
        </Line>
      )}
      <Line label={t.timecode} help={t.timecodeHelp}>
        <input
          aria-label={t.timecodeFrom}
          value={take.timecode}
          placeholder={t.noTimecode}
          onChange={(event) => change({ timecode: event.target.value })}
          className="num h-7 w-36 rounded-md border border-line bg-card px-2"
        />
      </Line>
      <Line label={t.size}>
        <Segments<Take["size"]>
          name={t.size}
          tight
          value={take.size}
          choices={[
            { value: "full", label: t.full },
            { value: "half", label: t.half },
            { value: "given", label: t.given },
          ]}
          onChange={(size) =>
            change(size === "given" && own ? { size, width: own.width, height: own.height } : { size })
          }
        />
      </Line>
      {take.size === "given" && (
        <Line>
          <Pixels label={t.width} value={take.width} onChange={(width) => change({ width })} />
          <span className="mx-1.5 self-center text-soft">×</span>
          <Pixels label={t.height} value={take.height} onChange={(height) => change({ height })} />
        </Line>
      )}
      {take.size !== "full" && (
        <Line label={t.filter}>
          <Choose
            name={t.filter}
            value={take.filter}
            options={FILTERS}
            onChange={(filter) => change({ filter: filter as Take["filter"] })}
          />
        </Line>
      )}
    </div>
  );
}

const FILTERS = [
  { value: "lanczos3", label: t.lanczos },
  { value: "catmull-rom", label: t.cubic },
  { value: "triangle", label: t.linear },
  { value: "box", label: t.box },
];

function Pixels({ label, value, onChange }: { label: string; value: number; onChange: (n: number) => void }) {
  return (
    <input
      type="number"
      aria-label={label}
      min={1}
      max={16384}
      value={value}
      onChange={(event) => {
        const pixels = Math.round(event.target.valueAsNumber);
        if (pixels >= 1 && pixels <= 16384) onChange(pixels);
      }}
      className="num h-7 w-20 rounded-md border border-line bg-card px-1.5 text-right"
    />
  );
}

/** A whole number that was typed; nothing for an empty field, and what was there for anything else. */
export function whole(typed: string, before: number | null): number | null {
  if (typed.trim() === "") return null;
  return /^-?\d{1,7}$/.test(typed.trim()) ? Number(typed) : before;
}
