/** Single pixels, when the zoom is so far in that they are looked at: a grid, and the codes in them. */
import type { Drawn } from "../api/pictures";
import { toComp, toScreen, type Size, type View } from "../domain/geometry";

/** From so many screen pixels a picture pixel on, a grid is drawn; from so many, the codes too. */
export const GRID_FROM = 16;
export const CODES_FROM = 44;

/** Whole pixels of the frame that are seen, as x0, y0, x1, y1. */
export function seenPixels(view: View, room: Size, frame: Size): [number, number, number, number] {
  const [left, top] = toComp(view, room, 0, 0);
  const [right, bottom] = toComp(view, room, room.width, room.height);
  return [
    Math.max(0, Math.floor(left)),
    Math.max(0, Math.floor(top)),
    Math.min(frame.width, Math.ceil(right)),
    Math.min(frame.height, Math.ceil(bottom)),
  ];
}

export function paintPixels(
  context: CanvasRenderingContext2D,
  view: View,
  room: Size,
  frame: Size,
  drawn: Drawn | null,
  level: number,
): void {
  if (view.zoom < GRID_FROM) return;
  const [x0, y0, x1, y1] = seenPixels(view, room, frame);
  const [left, top] = toScreen(view, room, x0, y0);
  const [right, bottom] = toScreen(view, room, x1, y1);
  context.save();
  context.strokeStyle = "rgba(128, 128, 128, 0.4)";
  context.lineWidth = 1;
  context.beginPath();
  for (let x = x0; x <= x1; x += 1) {
    const at = Math.round(toScreen(view, room, x, 0)[0]) + 0.5;
    context.moveTo(at, top);
    context.lineTo(at, bottom);
  }
  for (let y = y0; y <= y1; y += 1) {
    const at = Math.round(toScreen(view, room, 0, y)[1]) + 0.5;
    context.moveTo(left, at);
    context.lineTo(right, at);
  }
  context.stroke();
  if (view.zoom >= CODES_FROM && level === 0 && drawn?.image instanceof ImageData)
    paintCodes(context, view, room, [x0, y0, x1, y1], drawn, drawn.image);
  context.restore();
}

function paintCodes(
  context: CanvasRenderingContext2D,
  view: View,
  room: Size,
  [x0, y0, x1, y1]: [number, number, number, number],
  drawn: Drawn,
  image: ImageData,
): void {
  const [rx, ry] = drawn.region;
  context.font = `11px "Atkinson Hyperlegible Mono Variable", monospace`;
  context.textAlign = "center";
  context.textBaseline = "middle";
  for (let y = y0; y < y1; y += 1) {
    for (let x = x0; x < x1; x += 1) {
      const [px, py] = [x - rx, y - ry];
      if (px < 0 || py < 0 || px >= image.width || py >= image.height) continue;
      const at = (py * image.width + px) * 4;
      const [r = 0, g = 0, b = 0] = image.data.subarray(at, at + 3);
      context.fillStyle = 0.299 * r + 0.587 * g + 0.114 * b > 128 ? "#000" : "#fff";
      const [sx, sy] = toScreen(view, room, x + 0.5, y + 0.5);
      [r, g, b].forEach((code, i) => context.fillText(String(code), sx, sy + (i - 1) * 12));
    }
  }
}
