/** Which numbers of a part can be taken hold of in the picture, and where they lie there. */
import { partOf, numberAt, type Part, type PartPath } from "../../../domain/parts";
import type { Layer } from "../../../domain/comp";
import type { Size } from "../../../domain/geometry";
import type { Tool } from "../deskState";

export type Form = "ellipse" | "rectangle" | "free";

/** The form of a part that has one: a matte's, one made here, a fall-off's, or where a step acts. */
export function formOf(part: Part): Form | null {
  const form = part["shape"] ?? part["by"];
  return form === "ellipse" || form === "rectangle" || form === "free" ? form : null;
}

/** A number that a point's place is: where it is when that is 0, and which way it goes. */
interface Along {
  field: string;
  rest: number;
  sign: 1 | -1;
}

/** A point to take hold of; along an axis that it has no number for it stays where it is. */
export interface Hold {
  name: string;
  x: Along | number;
  y: Along | number;
}

const from = (field: string, rest: number, sign: 1 | -1 = 1): Along => ({ field, rest, sign });

/** Points of a gradient, of pinned corners, of a crop: in pixels of a layer of a size, from its centre. */
const HOLDS: Record<string, (half: [number, number], part: Part, frame: number) => Hold[]> = {
  gradient: () => [
    { name: "from", x: from("x", 0), y: from("y", 0) },
    { name: "to", x: from("to_x", 0), y: from("to_y", 0) },
  ],
  corner_pin: ([w, h]) =>
    (
      [
        ["top_left", -w, -h],
        ["top_right", w, -h],
        ["bottom_right", w, h],
        ["bottom_left", -w, h],
      ] as const
    ).map(([field, x, y]) => ({
      name: field.replace("_", " "),
      x: from(`${field}.0`, x),
      y: from(`${field}.1`, y),
    })),
  crop: ([w, h], part, frame) => {
    const at = (field: string) => numberAt(part, field, frame);
    const [middleX, middleY] = [(at("left") - at("right")) / 2, (at("top") - at("bottom")) / 2];
    return [
      { name: "left", x: from("left", -w), y: middleY },
      { name: "top", x: middleX, y: from("top", -h) },
      { name: "right", x: from("right", w, -1), y: middleY },
      { name: "bottom", x: middleX, y: from("bottom", h, -1) },
    ];
  },
};

/** The points of a part of a layer of this size; none where it has no such. */
export function holdsOf(part: Part, size: Size, frame: number): Hold[] {
  return HOLDS[String(part["kind"])]?.([size.width / 2, size.height / 2], part, frame) ?? [];
}

export function placeOfHold(part: Part, hold: Hold, frame: number): [number, number] {
  const at = (along: Along | number) =>
    typeof along === "number" ? along : along.rest + along.sign * numberAt(part, along.field, frame);
  return [at(hold.x), at(hold.y)];
}

/** The tool that takes hold of a part, if there is one for it. */
export function toolOf(layer: Layer, path: PartPath): Tool | null {
  const part = partOf(layer, path);
  if (!part) return null;
  const step = path.of === "matte" ? path.step : null;
  const owner = { layer: layer.id, step };
  if (formOf(part)) return { kind: "shape", owner, path };
  return String(part["kind"]) in HOLDS ? { kind: "points", owner, path } : null;
}

export function samePath(a: PartPath, b: PartPath): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}
