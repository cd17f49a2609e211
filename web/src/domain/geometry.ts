/** Where a picture lies in the viewer: pixels of the comp, of a level, of the screen. */

export interface Size {
  width: number;
  height: number;
}

/** Screen pixels a comp pixel, and the comp point at the middle of the viewer. */
export interface View {
  zoom: number;
  x: number;
  y: number;
}

export type Region = [number, number, number, number];

export function fitView(frame: Size, room: Size): View {
  const zoom = Math.min(room.width / frame.width, room.height / frame.height);
  return { zoom: zoom > 0 ? zoom : 1, x: frame.width / 2, y: frame.height / 2 };
}

/** Level whose pixels come nearest below those of the screen: 0 is full size, each one halves it. */
export function levelFor(zoom: number): number {
  return zoom >= 1 ? 0 : Math.max(0, Math.min(8, Math.floor(Math.log2(1 / zoom) + 1e-6)));
}

export function toComp(view: View, room: Size, sx: number, sy: number): [number, number] {
  return [view.x + (sx - room.width / 2) / view.zoom, view.y + (sy - room.height / 2) / view.zoom];
}

export function toScreen(view: View, room: Size, x: number, y: number): [number, number] {
  return [(x - view.x) * view.zoom + room.width / 2, (y - view.y) * view.zoom + room.height / 2];
}

/** Zoom by a factor so that what is under the pointer stays there. */
export function zoomAt(view: View, room: Size, sx: number, sy: number, factor: number): View {
  const zoom = Math.max(1 / 64, Math.min(64, view.zoom * factor));
  const [x, y] = toComp(view, room, sx, sy);
  return { zoom, x: x - (sx - room.width / 2) / zoom, y: y - (sy - room.height / 2) / zoom };
}

/** A layer's place at a frame, and the size of its own picture where that is known. */
export interface Laid {
  x: number;
  y: number;
  scale: number;
  rotation: number;
  size?: Size | undefined;
  /** Of a layer that stands in a scene: 3 × 3, from its pixels to the comp's; the rest is not asked then. */
  matrix?: number[] | undefined;
}

/** Where a layer's centre lies in the comp: at rest it sits on whole pixels, odd leftovers go right and down. */
export function centreOf(place: Laid, frame: Size): [number, number] {
  const own = place.size ?? frame;
  return [
    Math.floor((frame.width - own.width) / 2) + own.width / 2 + place.x,
    Math.floor((frame.height - own.height) / 2) + own.height / 2 + place.y,
  ];
}

/** A point of the comp as pixels of a layer, measured from the layer's centre. */
export function intoLayer(place: Laid, frame: Size, [x, y]: [number, number]): [number, number] {
  if (place.matrix) {
    const own = place.size ?? frame;
    const [u, v] = through(inverted(place.matrix), [x, y]);
    return [u - own.width / 2, v - own.height / 2];
  }
  const centre = centreOf(place, frame);
  const [dx, dy] = [x - centre[0], y - centre[1]];
  const [c, s] = turned(-place.rotation);
  return [(c * dx - s * dy) / place.scale, (s * dx + c * dy) / place.scale];
}

export function outOfLayer(place: Laid, frame: Size, [x, y]: [number, number]): [number, number] {
  if (place.matrix) {
    const own = place.size ?? frame;
    return through(place.matrix, [x + own.width / 2, y + own.height / 2]);
  }
  const [c, s] = turned(place.rotation);
  const centre = centreOf(place, frame);
  return [centre[0] + (c * x - s * y) * place.scale, centre[1] + (s * x + c * y) * place.scale];
}

/** A point under a projective matrix. */
export function through(m: readonly number[], [x, y]: readonly [number, number]): [number, number] {
  const row = (i: number) => m[i]! * x + m[i + 1]! * y + m[i + 2]!;
  const w = row(6);
  return [row(0) / w, row(3) / w];
}

function inverted([a, b, c, d, e, f, g, h, i]: readonly number[]): number[] {
  const rows = [
    [e! * i! - f! * h!, c! * h! - b! * i!, b! * f! - c! * e!],
    [f! * g! - d! * i!, a! * i! - c! * g!, c! * d! - a! * f!],
    [d! * h! - e! * g!, b! * g! - a! * h!, a! * e! - b! * d!],
  ];
  return rows.flat(); // times the determinant, which a projective matrix does not feel
}

function turned(degrees: number): [number, number] {
  const angle = (degrees * Math.PI) / 180;
  return [Math.cos(angle), Math.sin(angle)];
}

/** The visible part in pixels of a level, with a margin; null when all of it is seen. */
export function visibleRegion(view: View, room: Size, frame: Size, level: number): Region | null {
  const [left, top] = toComp(view, room, 0, 0);
  const [right, bottom] = toComp(view, room, room.width, room.height);
  if (left <= 0 && top <= 0 && right >= frame.width && bottom >= frame.height) return null;
  const step = 2 ** level;
  const width = Math.ceil(frame.width / step);
  const height = Math.ceil(frame.height / step);
  const margin = 32;
  // Whole blocks, so that a small pan asks for the same region again.
  const low = (v: number) => Math.max(0, Math.floor((v / step - margin) / 64) * 64);
  const high = (v: number, most: number) => Math.min(most, Math.ceil((v / step + margin) / 64) * 64);
  const region: Region = [low(left), low(top), high(right, width), high(bottom, height)];
  return region[2] > region[0] && region[3] > region[1]
    ? region
    : [0, 0, Math.min(64, width), Math.min(64, height)];
}
