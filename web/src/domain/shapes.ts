/** Free forms: six numbers a point, x and y and the offsets of its handles before and after it. */
import { numberAt, withNumber, type Part } from "./parts";

export const PER_POINT = 6;

export interface Point {
  x: number;
  y: number;
  before: [number, number];
  after: [number, number];
}

export function pointsOf(part: Part, frame: number): Point[] {
  const count = Math.floor((part["points"] as number[]).length / PER_POINT);
  return Array.from({ length: count }, (_, i) => {
    const at = (k: number) => numberAt(part, `points.${i * PER_POINT + k}`, frame);
    return { x: at(0), y: at(1), before: [at(2), at(3)], after: [at(4), at(5)] };
  });
}

const numbersOf = (p: Point) => [p.x, p.y, ...p.before, ...p.after].map((v) => Math.round(v * 100) / 100);

/** One point set, with keys at the frame where its numbers have curves. */
export function withPoint(part: Part, index: number, point: Point, frame: number): Partial<Part> {
  return numbersOf(point).reduce<Part>(
    (now, value, k) => ({ ...now, ...withNumber(now, `points.${index * PER_POINT + k}`, value, frame) }),
    part,
  );
}

/** A further point, after the last one. */
export function addPoint(part: Part, point: Point): Partial<Part> {
  return { points: [...(part["points"] as number[]), ...numbersOf(point)] };
}

/** The part without a point; the curves of those after it move up. */
export function withoutPoint(part: Part, index: number): Partial<Part> {
  const points = (part["points"] as number[]).filter((_, i) => Math.floor(i / PER_POINT) !== index);
  const keys = Object.entries(part.keys).flatMap(([name, curve]) => {
    const [field, place] = name.split(".");
    if (field !== "points") return [[name, curve] as const];
    const at = Number(place);
    if (Math.floor(at / PER_POINT) === index) return [];
    return [[`points.${at > index * PER_POINT ? at - PER_POINT : at}`, curve] as const];
  });
  return { points, keys: Object.fromEntries(keys) };
}

/** Handles that make a corner round: along the line between its neighbours, a third as long. */
export function rounded(points: Point[], index: number): Point {
  const point = points[index]!;
  const [a, b] = [points.at(index - 1)!, points[(index + 1) % points.length]!];
  const [dx, dy] = [(b.x - a.x) / 6, (b.y - a.y) / 6];
  return { ...point, before: [-dx, -dy], after: [dx, dy] };
}

export const isCorner = (p: Point) => [...p.before, ...p.after].every((v) => v === 0);

/** The outline as an SVG path. */
export function outline(points: Point[], place: (x: number, y: number) => [number, number]): string {
  const [first] = points;
  if (!first) return "";
  const text = (x: number, y: number) =>
    place(x, y)
      .map((v) => v.toFixed(2))
      .join(" ");
  const curves = points.map((p, i) => {
    const next = points[(i + 1) % points.length]!;
    const [c, d] = [
      text(p.x + p.after[0], p.y + p.after[1]),
      text(next.x + next.before[0], next.y + next.before[1]),
    ];
    return `C ${c} ${d} ${text(next.x, next.y)}`;
  });
  return `M ${text(first.x, first.y)} ${points.length > 1 ? curves.join(" ") : ""}`;
}
