/** R, G, B, A and luma along a line: fringes show as humps. */
import { useState } from "react";
import type { ProfileOut } from "../../api/elements";
import { boundsOf, CURVES, pointsOf } from "./plots";

export function ProfilePlot({ rows }: { rows: ProfileOut["stored"] }) {
  const [at, setAt] = useState<number | null>(null);
  const distance = rows["distance"] ?? [];
  const shown = CURVES.map((c) => ({ ...c, values: rows[c.name] ?? [] }));
  const [low, high] = boundsOf(shown.map((c) => c.values));
  const index = at === null ? null : Math.round(at * (distance.length - 1));
  return (
    <div className="mt-1 flex min-h-0 flex-1 gap-3">
      <div
        className="relative min-w-0 flex-1"
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          setAt(Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)));
        }}
        onPointerLeave={() => setAt(null)}
      >
        <svg
          role="img"
          aria-label="Profile along the line"
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
      <table className="h-fit w-36 shrink-0">
        <tbody>
          {shown.map((c) => (
            <tr key={c.name}>
              <td className="w-8">
                <svg aria-hidden viewBox="0 0 24 8" className="h-2 w-6">
                  <line
                    x1={0}
                    x2={24}
                    y1={4}
                    y2={4}
                    stroke={c.stroke}
                    strokeDasharray={c.dash}
                    strokeWidth={2}
                  />
                </svg>
              </td>
              <th scope="row" className="text-left font-normal">
                {c.name}
              </th>
              <td className="num text-right">{index === null ? "" : (c.values[index] ?? 0).toFixed(4)}</td>
            </tr>
          ))}
          <tr className="text-soft">
            <td />
            <th scope="row" className="text-left font-normal">
              px
            </th>
            <td className="num text-right">
              {(index === null ? (distance.at(-1) ?? 0) : (distance[index] ?? 0)).toFixed(1)}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}
