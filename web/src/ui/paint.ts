/** A picture put on a canvas at its place in the view; all of it, or only what lies right of a line. */
import type { Drawn } from "../api/pictures";
import { toScreen, type Size, type View } from "../domain/geometry";

/** One scratch canvas: raw pixels cannot be scaled while they are put. */
const scratch = document.createElement("canvas");

/** `part`: only what lies right of a line through a share of the frame's width is painted. */
export function paint(
  context: CanvasRenderingContext2D,
  view: View,
  room: Size,
  drawn: Drawn | null,
  level: number,
  frame: Size,
  part: { at: number; angle: number } | null,
): void {
  if (!drawn) return;
  let source: CanvasImageSource;
  if (drawn.image instanceof ImageData) {
    scratch.width = drawn.image.width;
    scratch.height = drawn.image.height;
    scratch.getContext("2d")!.putImageData(drawn.image, 0, 0);
    source = scratch;
  } else {
    source = drawn.image;
  }
  // A level's last pixel may reach past the frame's edge; the picture ends where the frame does.
  const step = 2 ** level;
  const [x0, y0, x1, y1] = drawn.region;
  const [left, top] = toScreen(view, room, x0 * step, y0 * step);
  const [right, bottom] = toScreen(view, room, x1 * step, y1 * step);
  const [edgeLeft, edgeTop] = toScreen(view, room, 0, 0);
  const [edgeRight, edgeBottom] = toScreen(view, room, frame.width, frame.height);
  context.save();
  context.beginPath();
  context.rect(edgeLeft, edgeTop, edgeRight - edgeLeft, edgeBottom - edgeTop);
  context.clip();
  if (part) {
    clipRight(context, toScreen(view, room, part.at * frame.width, frame.height / 2), part.angle, room);
    context.clearRect(edgeLeft, edgeTop, edgeRight - edgeLeft, edgeBottom - edgeTop);
  }
  // From twice the size on, single pixels are looked at: they stay squares.
  context.imageSmoothingEnabled = view.zoom * step < 2;
  // a draft is there for a moment: smoothing it well would take longer than drawing it
  context.imageSmoothingQuality = drawn.image instanceof ImageData ? "high" : "low";
  context.drawImage(source, left, top, right - left, bottom - top);
  context.restore();
}

/** Leaves only what lies right of a line through a point, leaning by an angle. */
function clipRight(
  context: CanvasRenderingContext2D,
  [x, y]: [number, number],
  angle: number,
  room: Size,
): void {
  const far = 4 * (room.width + room.height);
  const [dx, dy] = [Math.sin((angle * Math.PI) / 180), Math.cos((angle * Math.PI) / 180)];
  context.beginPath();
  context.moveTo(x + dx * far, y - dy * far);
  context.lineTo(x - dx * far, y + dy * far);
  context.lineTo(x - dx * far + dy * far, y + dy * far + dx * far);
  context.lineTo(x + dx * far + dy * far, y - dy * far + dx * far);
  context.clip();
}
