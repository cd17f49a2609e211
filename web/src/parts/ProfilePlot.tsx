/** R, G, B, A and luma along a line: fringes show as humps. */
import { useState } from "react";
import { boundsOf, CURVES, pointsOf } from "./plots";
import { text } from "./strings";

const t = text.ProfilePlot;

export function ProfilePlot({ rows, narrow }: { rows: Record<string, number[]>; narrow?: boolean }) {
  const [at, setAt] = useState<number | null>(null);
  const distance = rows["distance"] ?? [];
  const shown = CURVES.map((c) => ({ ...c, values: rows[c.name] ?? [] }));
  const [low, high] = boundsOf(shown.map((c) => c.values));
  const index = at === null ? null : Math.round(at * (distance.length - 1));
  return (
    <div className={`mt-1 flex min-h-0 flex-1 ${narrow ? "flex-col gap-1" : "gap-3"}`}>
      <div
        className="relative min-h-0 min-w-0 flex-1"
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          setAt(Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)));
        }}
        onPointerLeave={() => setAt(null)}
      >
        <svg
          role="img"
          aria-label={t.profileAlongTheLine}
          viewBox="0 0 1000 100"
          preserveAspectRatio="none"
          className="h-full w-full rounded border border-line bg-panel"
        >
          {[0, 0.5, 1].map((v) => (
            <line
              key={v}
              x1={0}
              x2={1000}
              y1={100 - ((v - low) / (high - low)) * 100}
              y2={100 - ((v - low) / (high - low)) * 100}
              stroke="var(--line)"
              vectorEffect="non-scaling-stroke"
            />
          ))}
          {shown.map((c) => (
            <polyline
              key={c.name}
              points={pointsOf(c.values, low, high)}
              fill="none"
              stroke={c.stroke}
              strokeDasharray={c.dash}
              strokeWidth={c.name === "A" ? 2 : 1.3}
              vectorEffect="non-scaling-stroke"
            />
          ))}
          {at !== null && (
            <line
              x1={at * 1000}
              x2={at * 1000}
              y1={0}
              y2={100}
              stroke="var(--accent)"
              vectorEffect="non-scaling-stroke"
            />
          )}
        </svg>
      </div>
      <Legend {...{ shown, distance, index, narrow: narrow ?? false }} />
    </div>
  );
}

interface LegendProps {
  shown: { name: string; stroke: string; dash: string; values: number[] }[];
  distance: number[];
  /** The point under the pointer. */
  index: number | null;
  narrow: boolean;
}

/** Which line is which, with its value under the pointer. */
function Legend({ shown, distance, index, narrow }: LegendProps) {
  return (
    <dl className={narrow ? "grid shrink-0 grid-cols-3 gap-x-3" : "w-36 shrink-0"}>
      {shown.map((c) => (
        <div key={c.name} className="flex items-center gap-1">
          <svg aria-hidden viewBox="0 0 24 8" className="h-2 w-6 shrink-0">
            <line x1={0} x2={24} y1={4} y2={4} stroke={c.stroke} strokeDasharray={c.dash} strokeWidth={2} />
          </svg>
          <dt>{c.name}</dt>
          <dd className="num ml-auto">{index === null ? "" : (c.values[index] ?? 0).toFixed(4)}</dd>
        </div>
      ))}
      <div className="flex items-center gap-1 text-soft">
        <dt>{t.px}</dt>
        <dd className="num ml-auto">
          {(index === null ? (distance.at(-1) ?? 0) : (distance[index] ?? 0)).toFixed(1)}
        </dd>
      </div>
    </dl>
  );
}
