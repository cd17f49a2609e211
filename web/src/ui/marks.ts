/** What a person draws on a picture, in its pixels: a line across an edge, a box to be measured. */
import type { Size } from "../domain/geometry";

export interface Mark {
  kind: "line" | "box";
  from: [number, number];
  to: [number, number];
}

/** A mark between two points, kept within the frame. */
export function markOf(kind: Mark["kind"], from: [number, number], to: [number, number], frame: Size): Mark {
  const held = ([x, y]: [number, number]): [number, number] => [
    Math.max(0, Math.min(frame.width, x)),
    Math.max(0, Math.min(frame.height, y)),
  ];
  return { kind, from: held(from), to: held(to) };
}

/** The whole pixels that a box covers, one at least; nothing for a line. */
export function boxOfMark(mark: Mark | null): [number, number, number, number] | null {
  if (mark?.kind !== "box") return null;
  const [x0, x1] = [mark.from[0], mark.to[0]].sort((a, b) => a - b) as [number, number];
  const [y0, y1] = [mark.from[1], mark.to[1]].sort((a, b) => a - b) as [number, number];
  return [
    Math.floor(x0),
    Math.floor(y0),
    Math.max(Math.floor(x0) + 1, Math.ceil(x1)),
    Math.max(Math.floor(y0) + 1, Math.ceil(y1)),
  ];
}

export function lineOfMark(mark: Mark | null): [number, number, number, number] | null {
  return mark?.kind === "line" ? [...mark.from, ...mark.to] : null;
}
