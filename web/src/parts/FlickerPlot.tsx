/** How mean and spread go from frame to frame: a bad frame stands out. Clicked, it leads there. */
import { useState, type PointerEvent } from "react";
import { ProgressBar } from "../ui/basics";
import { Segments } from "../ui/Segments";
import { CURVES, pointsOf } from "./plots";
import { text } from "./strings";

const t = text.FlickerPlot;

/** Of one frame, by channel; light, premultiplied over black. */
export interface FrameMeasure {
  mean: Record<string, number>;
  spread: Record<string, number>;
}

/** A frame that could not be measured is null. */
export type FrameRow = FrameMeasure | null;

/**
 * Measure frame after frame, and show what there is after every few.
 *
 * Ends when the signal says so.
 */
export async function measureFrames(
  frames: readonly number[],
  one: (frame: number, signal: AbortSignal) => Promise<FrameMeasure>,
  show: (rows: FrameRow[]) => void,
  signal: AbortSignal,
): Promise<void> {
  const found: FrameRow[] = [];
  for (const frame of frames) {
    const row = await one(frame, signal).catch(() => null);
    if (signal.aborted) return;
    found.push(row);
    if (found.length % 4 === 0 || found.length === frames.length) show([...found]);
  }
}

interface Props {
  frames: readonly number[];
  rows: FrameRow[];
  /** The frame that is looked at. */
  now?: number;
  onLook?: (frame: number) => void;
  className?: string;
}

export function FlickerPlot({ frames, rows, now, onLook, className = "h-32" }: Props) {
  const [kind, setKind] = useState<"mean" | "spread">("mean");
  const [at, setAt] = useState<number | null>(null);
  const values = CURVES.map((c) => ({ ...c, values: rows.map((r) => r?.[kind][c.name] ?? 0) }));
  const [low, high] = boundsOfRows(rows, kind);
  const odd = oddOnes(rows);
  const last = Math.max(1, frames.length - 1);
  const place = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.max(0, Math.min(1, (event.clientX - box.left) / box.width));
  };
  const index = at === null ? null : Math.min(rows.length - 1, Math.round(at * (frames.length - 1)));
  // of many frames only some are measured: the one at or before it stands for it
  const mark = now === undefined ? -1 : frames.findLastIndex((frame) => frame <= now);
  const line = (i: number, stroke: string) => (
    <line
      key={`${i} ${stroke}`}
      x1={(i / last) * 1000}
      x2={(i / last) * 1000}
      y1={0}
      y2={100}
      stroke={stroke}
      vectorEffect="non-scaling-stroke"
    />
  );
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
        className={`w-full rounded border border-line bg-card ${onLook ? "cursor-pointer" : ""} ${className}`}
        onPointerMove={(event) => setAt(place(event))}
        onPointerLeave={() => setAt(null)}
        onPointerDown={(event) => {
          const frame = frames[Math.round(place(event) * (frames.length - 1))];
          if (frame !== undefined) onLook?.(frame);
        }}
      >
        {odd.map((i) => line(i, "var(--warn)"))}
        {mark >= 0 && line(mark, "var(--accent)")}
        {values.map((c) => (
          <polyline
            key={c.name}
            points={pointsOf(c.values, low, high)}
            opacity={c.name === "A" && c.values.every((v) => v >= high || v <= low) ? 0.3 : 1}
            transform={`scale(${Math.max(rows.length - 1, 0) / last} 1)`}
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
export function oddOnes(rows: FrameRow[]): number[] {
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

/** Bounds in which a flicker is seen: those of what changes, and of colour, whose alpha may be 1 throughout. */
export function boundsOfRows(rows: FrameRow[], kind: "mean" | "spread"): [number, number] {
  const of = (name: string) => rows.flatMap((r) => r?.[kind][name] ?? []);
  const alpha = of("A");
  const still = alpha.every((v) => Math.abs(v - alpha[0]!) < 1e-6);
  const seen = [...["R", "G", "B", "luma"].flatMap(of), ...(still ? [] : alpha)];
  if (seen.length === 0) return [0, 1];
  const [low, high] = [Math.min(...seen), Math.max(...seen)];
  const margin = Math.max((high - low) * 0.15, 1e-3);
  return [low - margin, high + margin];
}

/** Every so manieth of many frames, the first always. */
export function stepped(frames: readonly number[], most: number): number[] {
  const step = Math.max(1, Math.ceil(frames.length / most));
  return frames.filter((_, i) => i % step === 0);
}
