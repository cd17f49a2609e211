import { text } from "./strings";

const t = text.SpreadTable;
/** Mean, spread, least and most of each channel. */

/** One channel over a box, as the server measures it. */
export interface Spread {
  mean: number;
  spread: number;
  low: number;
  high: number;
  not_numbers: number;
  histogram: number[];
}

export type Spreads = Record<string, Spread>;

export function SpreadTable({ rows }: { rows: Spreads }) {
  const bad = Object.values(rows).reduce((sum, r) => sum + r.not_numbers, 0);
  return (
    <table className="h-fit w-full leading-[1.35]">
      <thead>
        <tr className="text-right text-soft">
          <td />
          {["mean", t.stdDev, "min", "max"].map((h) => (
            <th key={h} className="font-normal">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {["R", "G", "B", "A", "luma"].map((n) => {
          const row = rows[n];
          return (
            row && (
              <tr key={n} className="text-right">
                <th scope="row" className={`text-left font-medium ${COLOURS[n] ?? "text-ink"}`}>
                  {n}
                </th>
                {[row.mean, row.spread, row.low, row.high].map((v, i) => (
                  <td key={i} className="num">
                    {v.toFixed(3)}
                  </td>
                ))}
              </tr>
            )
          );
        })}
        {bad > 0 && (
          <tr>
            <td colSpan={5} className="text-warn">
              {t.valuesAreNotNumbers(bad)}
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

const COLOURS: Record<string, string> = { R: "text-red", G: "text-green", B: "text-blue" };
