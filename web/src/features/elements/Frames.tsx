/** All frames at a glance, and how their mean and spread go: a bad frame stands out. */
import { useEffect, useState } from "react";
import type { ElementOut } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { FlickerPlot, measureFrames, stepped, type FrameRow } from "../../parts/FlickerPlot";
import { Empty } from "../../ui/basics";
import { stampOf } from "../../domain/stampOf";
import { text } from "./strings";

const t = text.Frames;

/** More frames than this are looked at in steps. */
const MOST = 240;
const STRIP = 48;

export function Frames({ element, onLook }: { element: ElementOut; onLook: (frame: number) => void }) {
  const facts = element.facts;
  if (!facts || facts.kind === "still" || element.state !== "ready")
    return <Empty title={t.onePicture}>{t.hasNoFurtherFramesTo(element.name)}</Empty>;
  const gone = new Set(facts.missing);
  const all = Array.from({ length: facts.last - facts.first + 1 }, (_, i) => facts.first + i);
  const there = all.filter((f) => !gone.has(f));
  return (
    <div className="min-h-0 flex-1 overflow-auto p-3">
      <Flicker key={element.id} element={element} frames={stepped(there, MOST)} />
      <Strip element={element} frames={stepped(there, STRIP)} all={there.length} onLook={onLook} />
      {facts.missing.length > 0 && (
        <p className="mt-2 text-warn">
          {t.missing}
          {facts.missing.slice(0, 20).join(", ")}
          {facts.missing.length > 20 && " …"}
        </p>
      )}
    </div>
  );
}

function Strip({
  element,
  frames,
  all,
  onLook,
}: {
  element: ElementOut;
  frames: number[];
  all: number;
  onLook: (frame: number) => void;
}) {
  const version = encodeURIComponent(stampOf(element));
  return (
    <section aria-label={t.contactStrip} className="mt-3">
      <h2 className="mb-1.5 font-semibold">
        {t.frames}{" "}
        {frames.length < all && (
          <span className="font-normal text-soft">{t.everyTh(Math.ceil(all / STRIP))}</span>
        )}
      </h2>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(7.5rem,1fr))] gap-2">
        {frames.map((frame) => (
          <li key={frame}>
            <button
              type="button"
              onClick={() => onLook(frame)}
              className="block w-full rounded border border-line bg-card p-1 text-left hover:border-accent"
            >
              <img
                loading="lazy"
                alt={t.frame(frame)}
                src={`/api/elements/${element.id}/card?part=colour&frame=${frame}&v=${version}`}
                className="aspect-video w-full bg-surround object-contain"
              />
              <span className="num text-soft">{frame}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Flicker({ element, frames }: { element: ElementOut; frames: number[] }) {
  const [rows, setRows] = useState<FrameRow[]>([]);
  useEffect(() => {
    const stop = new AbortController();
    const one = (frame: number, signal: AbortSignal) => elementCalls.flicker(element.id, frame, signal);
    void measureFrames(frames, one, setRows, stop.signal);
    return () => stop.abort();
    // frames are another list each time the page is drawn; they change with the element only
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [element.id, element.reading, element.encoding, frames.length]);
  return <FlickerPlot frames={frames} rows={rows} />;
}
