/** How often each value occurs from 0 to 1, by channel; heights by square root, so that few still show. */
import { CURVES, pointsOf } from "./plots";
import type { Spreads } from "./SpreadTable";
import { text } from "./strings";

const t = text.HistogramPlot;

export function HistogramPlot({ rows }: { rows: Spreads }) {
  const shown = CURVES.filter((c) => c.name !== "luma").map((c) => ({
    ...c,
    values: (rows[c.name]?.histogram ?? []).map(Math.sqrt),
  }));
  // the ends hold all that is clear or full: they would flatten everything else
  const most = Math.max(1, ...shown.flatMap((c) => c.values.slice(1, -1)));
  return (
    <svg
      role="img"
      aria-label={t.histogram}
      viewBox="0 0 1000 100"
      preserveAspectRatio="none"
      className="h-full w-full rounded border border-line bg-panel"
    >
      {shown.map((c) => (
        <polyline
          key={c.name}
          points={pointsOf(c.values, 0, most)}
          fill="none"
          stroke={c.stroke}
          strokeDasharray={c.dash}
          strokeWidth={c.name === "A" ? 2 : 1.3}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}
