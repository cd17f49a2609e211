/** Colours and shapes of the curves: never colour alone, so each has a dash of its own too. */
export const CURVES = [
  { name: "R", stroke: "var(--red)", dash: "" },
  { name: "G", stroke: "var(--green)", dash: "6 2" },
  { name: "B", stroke: "var(--blue)", dash: "2 2" },
  { name: "A", stroke: "var(--ink)", dash: "" },
  { name: "luma", stroke: "var(--soft)", dash: "1 3" },
] as const;

/** Points of a polyline in a box of 1000 by 100, from values between two bounds. */
export function pointsOf(values: readonly number[], low: number, high: number): string {
  const span = Math.max(high - low, 1e-9);
  const across = Math.max(values.length - 1, 1);
  return values
    .map((v, i) => {
      const y = 100 - (Math.max(low, Math.min(high, v)) - low) * (100 / span);
      return `${((i / across) * 1000).toFixed(1)},${y.toFixed(2)}`;
    })
    .join(" ");
}

/** Bounds that hold 0 to 1 and everything beyond it, within reason. */
export function boundsOf(rows: readonly (readonly number[])[]): [number, number] {
  let [low, high] = [0, 1];
  for (const row of rows) {
    for (const v of row) {
      if (v < low) low = v;
      if (v > high) high = v;
    }
  }
  return [Math.max(low, -4), Math.min(high, 16)];
}
