/** What people draw on the picture themselves: a line or a box, and the line of a wipe. */
import type { Drawn } from "../api/pictures";
import { toComp, toScreen, type Size, type View } from "../domain/geometry";
import type { Mark } from "./marks";
import { text } from "./strings";
import { hold } from "./hold";

const t = text.overlays;

/** A second picture shown right of a line, at a share of the frame's width. */
export interface Wipe {
  drawn: Drawn | null;
  level: number;
  at: number;
  /** Degrees by which the line leans from upright, clockwise. */
  angle?: number;
  onMove: (at: number) => void;
  left: string;
  right: string;
}

export function MarkShown({ mark, view, room }: { mark: Mark; view: View; room: Size }) {
  const [x0, y0] = toScreen(view, room, ...mark.from);
  const [x1, y1] = toScreen(view, room, ...mark.to);
  const box = {
    x: Math.min(x0, x1),
    y: Math.min(y0, y1),
    width: Math.abs(x1 - x0),
    height: Math.abs(y1 - y0),
  };
  // dark under light: seen on any picture
  const strokes = [
    { stroke: "#000", strokeWidth: 3 },
    { stroke: "#fff", strokeWidth: 1 },
  ];
  return (
    <svg aria-hidden data-mark={mark.kind} className="pointer-events-none absolute inset-0 h-full w-full">
      {strokes.map((stroke) =>
        mark.kind === "line" ? (
          <g key={stroke.stroke} {...stroke} fill="none">
            <line x1={x0} y1={y0} x2={x1} y2={y1} />
            <circle cx={x0} cy={y0} r={4} />
            <circle cx={x1} cy={y1} r={1.5} />
          </g>
        ) : (
          <rect key={stroke.stroke} {...box} {...stroke} fill="none" />
        ),
      )}
    </svg>
  );
}

export function WipeLine({ wipe, view, room, frame }: { wipe: Wipe; view: View; room: Size; frame: Size }) {
  const [x, middle] = toScreen(view, room, wipe.at * frame.width, frame.height / 2);
  const held = (at: number) => wipe.onMove(Math.max(0, Math.min(1, at)));
  return (
    <div
      role="slider"
      aria-label={t.wipe}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(wipe.at * 100)}
      tabIndex={0}
      className="absolute inset-y-0 w-4 -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: Math.max(6, Math.min(room.width - 6, x)) }}
      onPointerDown={(event) => {
        event.stopPropagation();
        hold(event.currentTarget, event.pointerId);
      }}
      onPointerMove={(event) => {
        event.stopPropagation();
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        const box = event.currentTarget.parentElement!.getBoundingClientRect();
        held(toComp(view, room, event.clientX - box.left, 0)[0] / frame.width);
      }}
      onKeyDown={(event) => {
        const step = { ArrowLeft: -0.02, ArrowRight: 0.02 }[event.key];
        if (step) held(wipe.at + step);
      }}
    >
      <div
        className="absolute left-1/2 h-[300%] w-px bg-white shadow-[0_0_0_1px_#000]"
        style={{ top: middle, transform: `translate(-50%, -50%) rotate(${wipe.angle ?? 0}deg)` }}
      />
      <span className="absolute right-4 bottom-2 rounded bg-black/70 px-1.5 py-0.5 text-right whitespace-nowrap text-white">
        {wipe.left}
      </span>
      <span className="absolute bottom-2 left-4 rounded bg-black/70 px-1.5 py-0.5 whitespace-nowrap text-white">
        {wipe.right}
      </span>
    </div>
  );
}
