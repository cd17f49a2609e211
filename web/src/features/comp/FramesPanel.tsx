/** The frames of what is shown, side by side, and how their mean goes: a frame that stands out is seen, and clicked. */
import { X } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { compCalls, type CompMeasure } from "../../api/comps";
import { takePicture } from "../../api/client";
import type { CompAsk } from "../../api/pictures";
import type { CompDocument } from "../../domain/comp";
import {
  FlickerPlot,
  measureFrames,
  stepped,
  type FrameMeasure,
  type FrameRow,
} from "../../parts/FlickerPlot";
import { SignButton } from "../../ui/basics";
import { boxOfMark } from "../../ui/marks";
import { rangeOfDesk, useDesk, type Box } from "./deskState";
import { shownDocument, type DocumentStore } from "./documentStore";
import { usePoint } from "./pointState";
import { text } from "./strings";

const t = text.FramesPanel;

/** More frames than these are looked at in steps. */
const MOST_MEASURED = 240;
const MOST_SHOWN = 12;
/** Pixels that a small picture is wide at least. */
const WIDE = 150;
/** Milliseconds without a change before all frames are drawn anew. */
const RESTING = 400;
/** Whole frames are measured at this level at most. */
const COARSE = 2;

/** What is looked at, whichever frame: with a draft nothing, since it changes at once. */
function askOfAll(ask: CompAsk | null): CompAsk | null {
  if (!ask) return null;
  return { ...ask, frame: 0, region: null, quality: "exact", viewer: "", sequence: 0, passing: false };
}

export const measuresOf = (light: CompMeasure["light"]): FrameMeasure => ({
  mean: Object.fromEntries(Object.entries(light).map(([n, s]) => [n, s.mean])),
  spread: Object.fromEntries(Object.entries(light).map(([n, s]) => [n, s.spread])),
});

export function FramesPanel({ store, comp }: { store: DocumentStore; comp: number }) {
  const document = store(shownDocument);
  const range = useDesk((d) => d.range);
  const mark = useDesk((d) => d.mark);
  const asked = usePoint((p) => p.ask);
  const [ask, setAsk] = useState<CompAsk | null>(null);
  const wanted = JSON.stringify(askOfAll(asked));
  // what is shown last stays until the next has come to rest
  useEffect(() => {
    if (wanted === "null") return;
    // what is worked on goes first
    const later = setTimeout(() => setAsk(JSON.parse(wanted) as CompAsk), RESTING);
    return () => clearTimeout(later);
  }, [wanted]);
  const [first, last] = rangeOfDesk(range, document);
  const frames = useMemo(() => Array.from({ length: last - first + 1 }, (_, i) => first + i), [first, last]);
  const box = boxOfMark(mark);
  return (
    <section aria-label={t.frames} className="relative shrink-0 border-t border-line bg-panel px-3 py-1.5">
      <SignButton
        name={t.close}
        className="absolute top-0.5 right-1 z-10"
        onClick={() => useDesk.setState({ frames: false })}
      >
        <X className="size-4" />
      </SignButton>
      {ask ? (
        <>
          <Strip {...{ comp, ask, document, frames }} />
          <Flicker {...{ comp, ask, frames }} within={box} />
        </>
      ) : (
        <p className="text-soft">{t.whenThePictureRests}</p>
      )}
    </section>
  );
}

const look = (frame: number) => useDesk.setState({ frame, playing: false });

interface Props {
  comp: number;
  ask: CompAsk;
  frames: readonly number[];
}

function Flicker({ comp, ask, frames, within }: Props & { within: Box | null }) {
  const [rows, setRows] = useState<FrameRow[]>([]);
  const now = useDesk((d) => d.frame);
  const some = useMemo(() => stepped(frames, MOST_MEASURED), [frames]);
  const asked = JSON.stringify([ask, within]);
  useEffect(() => {
    const stop = new AbortController();
    const [body, box] = JSON.parse(asked) as [CompAsk, Box | null];
    const level = Math.max(COARSE, body.level ?? 0);
    const one = async (frame: number, signal: AbortSignal) =>
      measuresOf((await compCalls.measure(comp, { ...body, level, frame }, box, signal)).light);
    void measureFrames(some, one, setRows, stop.signal);
    return () => {
      stop.abort();
      setRows([]);
    };
  }, [comp, asked, some]);
  return (
    <div className="pr-6">
      <FlickerPlot frames={some} rows={rows} now={now} onLook={look} className="h-16" />
      {within && <p className="text-soft">{t.ofTheBox}</p>}
    </div>
  );
}

function Strip({ comp, ask, document, frames }: Props & { document: CompDocument }) {
  const some = useMemo(() => stepped(frames, MOST_SHOWN), [frames]);
  const level = Math.max(0, Math.floor(Math.log2(document.width / WIDE)));
  const now = useDesk((d) => d.frame);
  const shown = some.filter((frame) => frame <= now).at(-1);
  const pictures = useStrip(comp, ask, level, some);
  return (
    <ul aria-label={t.contactStrip} className="mb-1.5 flex gap-1 overflow-x-auto pr-6">
      {some.map((frame) => (
        <li key={frame} className="min-w-12 flex-1">
          <button
            type="button"
            aria-label={t.frame(frame)}
            aria-pressed={frame === shown}
            onClick={() => look(frame)}
            className="block w-full rounded border border-line bg-card p-0.5 text-left hover:border-accent aria-pressed:border-accent"
          >
            <span
              className="block w-full bg-surround bg-cover"
              style={{
                aspectRatio: document.width / document.height,
                ...(pictures[frame] ? { backgroundImage: `url(${pictures[frame]})` } : {}),
              }}
            />
            <span className="num block text-[12px] leading-4 text-soft">{frame}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Small pictures, one after another; given back when they are not shown any more. */
function useStrip(
  comp: number,
  ask: CompAsk,
  level: number,
  frames: readonly number[],
): Record<number, string> {
  const [pictures, setPictures] = useState<Record<number, string>>({});
  const asked = JSON.stringify(ask);
  useEffect(() => {
    const stop = new AbortController();
    const made: string[] = [];
    const draw = async () => {
      for (const frame of frames) {
        const body = { ...(JSON.parse(asked) as CompAsk), level, frame, quality: "fast" };
        const url = await takePicture(`/api/comps/${comp}/picture`, body, stop.signal).catch(() => null);
        if (url) made.push(url);
        if (stop.signal.aborted) break;
        if (url) setPictures((all) => ({ ...all, [frame]: url }));
      }
      if (stop.signal.aborted) for (const url of made) URL.revokeObjectURL(url);
    };
    void draw();
    return () => {
      stop.abort();
      setPictures({});
      for (const url of made) URL.revokeObjectURL(url);
    };
  }, [comp, asked, level, frames]);
  return pictures;
}
