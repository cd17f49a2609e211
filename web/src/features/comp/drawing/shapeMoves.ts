/** What a grip of a shape is, and what the shape becomes while it is moved. */
import { numberAt, withNumber, type Part } from "../../../domain/parts";
import { pointsOf, withPoint } from "../../../domain/shapes";
import type { Form } from "./hands";

/** What is dragged: the whole, a side, the rotation, a point of a free form, a handle of one. */
export type Grip =
  | { of: "whole"; from: [number, number]; x: number; y: number }
  | { of: "width" }
  | { of: "height" }
  | { of: "rotation" }
  | { of: "point" | "before" | "after"; index: number };

/** What a part becomes while something of it is dragged to a place in the layer's pixels. */
export function moved(part: Part, grip: Grip, [x, y]: [number, number], frame: number): Partial<Part> {
  const round = (v: number) => Math.round(v * 10) / 10;
  const set = (name: string, value: number) => withNumber(part, name, round(value), frame);
  if (grip.of === "whole") {
    const first = { ...part, ...set("x", grip.x + x - grip.from[0]) };
    return { ...first, ...withNumber(first, "y", round(grip.y + y - grip.from[1]), frame) };
  }
  if (grip.of === "width" || grip.of === "height" || grip.of === "rotation") {
    const [dx, dy] = [x - numberAt(part, "x", frame), y - numberAt(part, "y", frame)];
    if (grip.of === "rotation") return set("rotation", (Math.atan2(dx, -dy) * 180) / Math.PI);
    const angle = (numberAt(part, "rotation", frame) * Math.PI) / 180;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    return set(grip.of, 2 * Math.abs(grip.of === "width" ? c * dx + s * dy : c * dy - s * dx));
  }
  const points = pointsOf(part, frame);
  const point = points[grip.index];
  if (!point) return {};
  if (grip.of === "point") return withPoint(part, grip.index, { ...point, x, y }, frame);
  const [hx, hy] = [x - point.x, y - point.y];
  // a new point that is let go at once stays a corner
  if (grip.of === "after" && Math.hypot(hx, hy) < 3) return {};
  const [ahead, behind]: [[number, number], [number, number]] = [
    [hx, hy],
    [-hx, -hy],
  ];
  const next =
    grip.of === "after"
      ? { ...point, after: ahead, before: behind }
      : { ...point, before: ahead, after: behind };
  return withPoint(part, grip.index, next, frame);
}

/** The rim of an ellipse or a rectangle, as a path on the screen. */
export function plainOutline(
  form: Form,
  part: Part,
  frame: number,
  place: (x: number, y: number) => [number, number],
): string {
  const at = (name: string) => numberAt(part, name, frame);
  const [x, y, a, b] = [at("x"), at("y"), at("width") / 2, at("height") / 2];
  const angle = (at("rotation") * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const round = Array.from({ length: 72 }, (_, i): [number, number] => {
    const t = (i / 72) * 2 * Math.PI;
    return [a * Math.cos(t), b * Math.sin(t)];
  });
  const corners: [number, number][] = [
    [-a, -b],
    [a, -b],
    [a, b],
    [-a, b],
  ];
  const rim = form === "ellipse" ? round : corners;
  return `M ${rim.map(([u, v]) => place(x + c * u - s * v, y + s * u + c * v).join(" ")).join(" L ")} Z`;
}
