/** Brush strokes as lists of points: thinned out so that documents stay small. */

type Point = [number, number];

/** The line through points without those that lie nearer to it than a distance (Ramer 1972, Douglas & Peucker 1973). */
export function thinned(points: Point[], tolerance: number): Point[] {
  if (points.length < 3) return points;
  const [first, last] = [points[0]!, points.at(-1)!];
  let [worst, at] = [0, 0];
  for (let i = 1; i < points.length - 1; i += 1) {
    const away = distance(points[i]!, first, last);
    if (away > worst) [worst, at] = [away, i];
  }
  if (worst <= tolerance) return [first, last];
  return [
    ...thinned(points.slice(0, at + 1), tolerance).slice(0, -1),
    ...thinned(points.slice(at), tolerance),
  ];
}

function distance([x, y]: Point, [ax, ay]: Point, [bx, by]: Point): number {
  const [dx, dy] = [bx - ax, by - ay];
  const length = dx * dx + dy * dy;
  const t = length > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / length)) : 0;
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}

/** As a stroke holds them: x and y by turns, to a tenth of a pixel. */
export const flat = (points: Point[]): number[] => points.flat().map((v) => Math.round(v * 10) / 10);
