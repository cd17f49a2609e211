/** All frames at a glance, and how their mean and spread go: a bad frame stands out. */
import { useEffect, useState } from "react";
import type { ElementOut } from "../../api/client";
import { elementCalls, type FlickerOut } from "../../api/elements";
import { Empty, ProgressBar } from "../../ui/basics";
import { Segments } from "../../ui/Segments";
import { CURVES, pointsOf } from "../../parts/plots";
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

function stepped(frames: number[], most: number): number[] {
  const step = Math.max(1, Math.ceil(frames.length / most));
  return frames.filter((_, i) => i % step === 0);
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

type Row = FlickerOut | null;

function Flicker({ element, frames }: { element: ElementOut; frames: number[] }) {
  const [rows, setRows] = useState<Row[]>([]);
  const [kind, setKind] = useState<"mean" | "spread">("mean");
  const [at, setAt] = useState<number | null>(null);
  useEffect(() => {
    const stop = new AbortController();
    const show = (found: Row[]) => {
      if (!stop.signal.aborted) setRows(found);
    };
    const measure = async () => {
      const found: Row[] = [];
      for (const frame of frames) {
        if (stop.signal.aborted) return;
        found.push(await elementCalls.flicker(element.id, frame, stop.signal).catch(() => null));
        if (found.length % 4 === 0 || found.length === frames.length) show([...found]);
      }
    };
    void measure();
    return () => stop.abort();
    // frames are another list each time the page is drawn; they change with the element only
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [element.id, element.reading, element.encoding, frames.length]);
  const values = CURVES.map((c) => ({ ...c, values: rows.map((r) => r?.[kind][c.name] ?? 0) }));
  const flat = values.flatMap((c) => c.values);
  const [low, high] = [Math.min(...flat, 0), Math.max(...flat, 1e-3)];
  const odd = oddOnes(rows);
  const index = at === null ? null : Math.min(rows.length - 1, Math.round(at * (frames.length - 1)));
  return (
    <section aria-label={t.flicker}>
      <div className="mb-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
        <h2 className="font-semibold">{t.flicker}</h2>
        <Segments
          name={t.measuredOfEachFrame}
          small
          value={kind}
          choices={[
            { value: "mean", label: t.mean },
            { value: "spread", label: t.standardDeviation },
          ]}
          onChange={setKind}
        />
        {rows.length < frames.length ? (
          <span className="flex w-64 items-center gap-2 text-soft">
            <span className="num shrink-0">{t.measured(rows.length, frames.length)}</span>
            <ProgressBar done={rows.length} total={frames.length} name={t.framesMeasured} />
          </span>
        ) : odd.length > 0 ? (
          <span className="text-warn">
            {t.standsOutFrame(
              odd
                .slice(0, 6)
                .map((i) => frames[i])
                .join(", "),
            )}
          </span>
        ) : (
          <span className="text-soft">{t.noFrameStandsOutFrom}</span>
        )}
        <span className="num ml-auto text-soft">
          {index !== null && index >= 0 && rows[index]
            ? `frame ${frames[index]}: ${CURVES.map((c) => `${c.name} ${rows[index]![kind][c.name]?.toFixed(4)}`).join("  ")}`
            : t.lightPremultipliedOverBlack}
        </span>
      </div>
      <svg
        role="img"
        aria-label={t.ofEachFrame(kind === "mean" ? t.mean2 : t.spread)}
        viewBox="0 0 1000 100"
        preserveAspectRatio="none"
        className="h-32 w-full rounded border border-line bg-card"
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          setAt(Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)));
        }}
        onPointerLeave={() => setAt(null)}
      >
        {odd.map((i) => (
          <line
            key={i}
            x1={(i / Math.max(1, frames.length - 1)) * 1000}
            x2={(i / Math.max(1, frames.length - 1)) * 1000}
            y1={0}
            y2={100}
            stroke="var(--warn)"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {values.map((c) => (
          <polyline
            key={c.name}
            points={pointsOf(
              [...c.values, ...Array<number>(Math.max(0, frames.length - rows.length)).fill(NaN)].filter(
                (v) => !Number.isNaN(v),
              ),
              low,
              high,
            )}
            transform={`scale(${frames.length > 1 ? Math.max(rows.length - 1, 0) / (frames.length - 1) : 1} 1)`}
            fill="none"
            stroke={c.stroke}
            strokeDasharray={c.dash}
            strokeWidth={c.name === "A" ? 2 : 1.3}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
    </section>
  );
}

/** Frames whose mean jumps away from both neighbours and back: a flash, a hole, a wrong frame. */
export function oddOnes(rows: Row[]): number[] {
  const mean = rows.map((r) => (r ? ((r.mean["luma"] ?? 0) + (r.mean["A"] ?? 0)) / 2 : null));
  const steps = mean.slice(1).map((v, i) => Math.abs((v ?? 0) - (mean[i] ?? 0)));
  const usual = [...steps].sort((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
  const limit = Math.max(usual * 6, 0.004);
  return mean.flatMap((v, i) => {
    const [before, after] = [mean[i - 1], mean[i + 1]];
    if (v === null) return [i];
    if (before == null || after == null) return [];
    const away = Math.min(Math.abs(v - before), Math.abs(v - after));
    return away > limit && (v - before) * (v - after) > 0 ? [i] : [];
  });
}
