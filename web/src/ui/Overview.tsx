/** Where in the frame one is, when only part of it is seen. */
import { toComp, type Size, type View } from "../domain/geometry";
import { text } from "./strings";

const t = text.Overview;

const WIDE = 88;

export function Overview({ view, room, frame }: { view: View; room: Size; frame: Size }) {
  const [left, top] = toComp(view, room, 0, 0);
  const [right, bottom] = toComp(view, room, room.width, room.height);
  if (left <= 0 && top <= 0 && right >= frame.width && bottom >= frame.height) return null;
  const held = (v: number, most: number) => Math.max(0, Math.min(most, v));
  const [x0, x1] = [held(left, frame.width), held(right, frame.width)];
  const [y0, y1] = [held(top, frame.height), held(bottom, frame.height)];
  return (
    <svg
      role="img"
      aria-label={t.seenTo(Math.round(x0), Math.round(y0), Math.round(x1), Math.round(y1))}
      viewBox={`0 0 ${frame.width} ${frame.height}`}
      className="pointer-events-none absolute top-2 right-2 rounded-[2px] bg-black/60"
      style={{ width: WIDE, height: (WIDE * frame.height) / frame.width }}
    >
      <rect
        width={frame.width}
        height={frame.height}
        className="fill-none stroke-white/70"
        vectorEffect="non-scaling-stroke"
      />
      <rect
        x={x0}
        y={y0}
        width={Math.max(x1 - x0, frame.width / 24)}
        height={Math.max(y1 - y0, frame.height / 16)}
        className="fill-white/80 stroke-black"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
