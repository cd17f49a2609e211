/** Laying a layer by hand: moved, scaled and turned about its centre, and drawn to lines that it comes near. */
import { centreOf, intoLayer, outOfLayer, type Laid, type Size } from "./geometry";

type Point = [number, number];

/** A point of the comp in the frame of the innermost of the groups that hold a layer, the outermost first. */
export function intoHolders(holders: readonly Laid[], frame: Size, point: Point): Point {
  return holders.reduce<Point>((at, holder) => {
    const [u, v] = intoLayer(holder, frame, at);
    return [u + frame.width / 2, v + frame.height / 2];
  }, point);
}

export function outOfHolders(holders: readonly Laid[], frame: Size, point: Point): Point {
  return holders.reduceRight<Point>(
    (at, holder) => outOfLayer(holder, frame, [at[0] - frame.width / 2, at[1] - frame.height / 2]),
    point,
  );
}

/** What is dragged: the layer itself, a corner, or the rotation. */
export type Handle = "whole" | "scale" | "rotation";

export type Placed = Partial<Pick<Laid, "x" | "y" | "scale" | "rotation">>;

const rounded = (value: number, to: number) => Math.round(value / to) * to;
const tidy = (value: number) => Number(value.toFixed(4));

/**
 * What a layer's place becomes while a handle is dragged from one point of its frame to another.
 *
 * Whole pixels, so that it is not resampled, and tenths of a degree; ``fine`` a tenth and a hundredth of that;
 * ``even``: steps of 15 degrees, or along one axis.
 */
export function placedBy(
  begun: Laid,
  frame: Size,
  handle: Handle,
  from: Point,
  to: Point,
  { fine = false, even = false }: { fine?: boolean; even?: boolean } = {},
): Placed {
  if (handle === "whole") {
    const grain = fine ? 0.1 : 1;
    let [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    if (even && Math.abs(dx) >= Math.abs(dy)) dy = 0;
    else if (even) dx = 0;
    return { x: tidy(rounded(begun.x + dx, grain)), y: tidy(rounded(begun.y + dy, grain)) };
  }
  const centre = centreOf(begun, frame);
  const [ax, ay] = [from[0] - centre[0], from[1] - centre[1]];
  const [bx, by] = [to[0] - centre[0], to[1] - centre[1]];
  if (handle === "rotation") {
    const turned = begun.rotation + ((Math.atan2(by, bx) - Math.atan2(ay, ax)) * 180) / Math.PI;
    const within = ((((turned + 180) % 360) + 360) % 360) - 180;
    return { rotation: tidy(rounded(within, even ? 15 : fine ? 0.01 : 0.1)) };
  }
  const share = Math.hypot(bx, by) / Math.max(Math.hypot(ax, ay), 1e-6);
  return { scale: tidy(Math.min(100, Math.max(0.002, rounded(begun.scale * share, 0.001)))) };
}

/** Left, top, right, bottom. */
export type Box = [number, number, number, number];

export function boxOf(place: Laid, frame: Size): Box {
  const { width, height } = place.size ?? frame;
  const corners = [-1, 1].flatMap((i) =>
    [-1, 1].map((j) => outOfLayer(place, frame, [(i * width) / 2, (j * height) / 2])),
  );
  const [xs, ys] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

export interface Snap {
  dx: number;
  dy: number;
  /** The lines that it is drawn to. */
  x: number | null;
  y: number | null;
}

/** How far a box is drawn to the frame's edges, centre and thirds, and to other boxes, within a reach. */
export function snapOf(box: Box, frame: Size, others: readonly Box[], reach: number): Snap {
  const along = (low: number, high: number, size: number, more: number[]): [number, number | null] => {
    const lines = [0, size / 3, size / 2, (2 * size) / 3, size, ...more];
    let [best, line]: [number, number | null] = [0, null];
    let least = reach;
    for (const own of [low, (low + high) / 2, high])
      for (const at of lines)
        if (Math.abs(at - own) < least) [least, best, line] = [Math.abs(at - own), at - own, at];
    return [best, line];
  };
  const [dx, x] = along(
    box[0],
    box[2],
    frame.width,
    others.flatMap((o) => [o[0], (o[0] + o[2]) / 2, o[2]]),
  );
  const [dy, y] = along(
    box[1],
    box[3],
    frame.height,
    others.flatMap((o) => [o[1], (o[1] + o[3]) / 2, o[3]]),
  );
  return { dx, dy, x, y };
}

export type Arrangement = "centre" | "fit" | "fill" | "left" | "right" | "top" | "bottom";

/** Where a layer lies once it is arranged in the frame. */
export function arranged(place: Laid, frame: Size, how: Arrangement): Placed {
  const own = place.size ?? frame;
  if (how === "centre") return { x: 0, y: 0 };
  if (how === "fit" || how === "fill") {
    const shares = [frame.width / own.width, frame.height / own.height] as const;
    const scale = how === "fit" ? Math.min(...shares) : Math.max(...shares);
    return { x: 0, y: 0, scale: tidy(scale), rotation: 0 };
  }
  const box = boxOf(place, frame);
  if (how === "left") return { x: tidy(place.x - box[0]) };
  if (how === "right") return { x: tidy(place.x + frame.width - box[2]) };
  if (how === "top") return { y: tidy(place.y - box[1]) };
  return { y: tidy(place.y + frame.height - box[3]) };
}
