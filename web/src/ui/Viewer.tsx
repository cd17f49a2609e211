/** The picture with nothing lying on it: fit, zoom to pixels, pan, and the point under the pointer. */
import {
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type PointerEvent,
  type RefObject,
} from "react";
import type { Drawn } from "../api/pictures";
import {
  fitView,
  levelFor,
  toComp,
  toScreen,
  visibleRegion,
  zoomAt,
  type Region,
  type Size,
  type View,
} from "../domain/geometry";
import { markOf, type Mark } from "./marks";
import { Overview } from "./Overview";
import { paintPixels } from "./pixels";

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

export interface Wanted {
  level: number;
  region: Region | null;
}

interface Props {
  frame: Size;
  drawn: Drawn | null;
  /** Level that `drawn` was asked at. */
  drawnLevel: number;
  view: View | null;
  onView: (view: View | null) => void;
  onWanted: (wanted: Wanted) => void;
  onPoint: (point: [number, number] | null) => void;
  onPick?: ((point: [number, number]) => void) | undefined;
  onPainted?: () => void;
  mark?: Mark | null | undefined;
  /** What dragging draws; it pans where nothing is drawn. */
  drawing?: Mark["kind"] | null | undefined;
  onMark?: ((mark: Mark | null) => void) | undefined;
  wipe?: Wipe | null | undefined;
  name: string;
}

/** Size of an element on the screen, followed. */
function useRoom(ref: RefObject<HTMLElement | null>): Size {
  const [room, setRoom] = useState<Size>({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const node = ref.current;
    if (!node) return;
    const measure = () => setRoom({ width: node.clientWidth, height: node.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(node);
    return () => observer.disconnect();
  }, [ref]);
  return room;
}

export function Viewer(props: Props) {
  const { frame, drawn, drawnLevel, view, onView, onWanted, onPoint, onPick, onPainted, name } = props;
  const holder = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { mark, drawing, onMark, wipe } = props;
  const pan = useRef<{ x: number; y: number; view: View } | null>(null);
  const begun = useRef<[number, number] | null>(null);
  const room = useRoom(holder);
  const shown = useMemo(() => view ?? fitView(frame, room), [view, frame, room]);

  const { drawn: other = null, level: otherLevel = 0, at: wipeAt = 0.5, angle: wipeAngle = 0 } = wipe ?? {};

  const level = levelFor(shown.zoom * window.devicePixelRatio);
  const region = room.width > 0 ? visibleRegion(shown, room, frame, level) : null;
  const wanted = JSON.stringify({ level, region });
  useEffect(() => {
    if (room.width > 0) onWanted(JSON.parse(wanted) as Wanted);
  }, [wanted, room.width, onWanted]);

  useLayoutEffect(() => {
    const node = canvas.current;
    if (!node || room.width === 0) return;
    const ratio = window.devicePixelRatio;
    const [width, height] = [Math.round(room.width * ratio), Math.round(room.height * ratio)];
    if (node.width !== width || node.height !== height) {
      node.width = width;
      node.height = height;
    }
    const context = node.getContext("2d")!;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, room.width, room.height);
    paint(context, shown, room, drawn, drawnLevel, frame, null);
    if (other) paint(context, shown, room, other, otherLevel, frame, { at: wipeAt, angle: wipeAngle });
    paintPixels(context, shown, room, frame, drawn, drawnLevel);
  }, [shown, room, drawn, drawnLevel, frame, other, otherLevel, wipeAt, wipeAngle]);
  useLayoutEffect(() => {
    if (drawn) onPainted?.();
  }, [drawn, onPainted]);

  useEffect(() => {
    const node = holder.current;
    if (!node) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = node.getBoundingClientRect();
      const factor = Math.exp(-event.deltaY * (event.deltaMode === 1 ? 0.06 : 0.002));
      onView(zoomAt(shown, room, event.clientX - box.left, event.clientY - box.top, factor));
    };
    node.addEventListener("wheel", onWheel, { passive: false });
    return () => node.removeEventListener("wheel", onWheel);
  });

  const at = (event: PointerEvent): [number, number] => {
    const box = holder.current!.getBoundingClientRect();
    return toComp(shown, room, event.clientX - box.left, event.clientY - box.top);
  };
  const inside = ([x, y]: [number, number]): [number, number] | null =>
    x >= 0 && y >= 0 && x < frame.width && y < frame.height ? [Math.floor(x), Math.floor(y)] : null;

  return (
    <div
      ref={holder}
      role="img"
      aria-label={name}
      tabIndex={0}
      className={`relative h-full min-h-0 w-full touch-none overflow-hidden bg-surround ${onPick || drawing ? "cursor-crosshair" : ""}`}
      onPointerDown={(event) => {
        const point = inside(at(event));
        if (onPick) {
          if (point) onPick(point);
          return;
        }
        if (drawing && onMark) {
          event.currentTarget.setPointerCapture(event.pointerId);
          begun.current = at(event);
          return;
        }
        event.currentTarget.setPointerCapture(event.pointerId);
        pan.current = { x: event.clientX, y: event.clientY, view: shown };
      }}
      onPointerMove={(event) => {
        onPoint(inside(at(event)));
        if (begun.current && drawing) {
          onMark?.(markOf(drawing, begun.current, at(event), frame));
          return;
        }
        if (!pan.current) return;
        const { x, y, view: from } = pan.current;
        if (Math.hypot(event.clientX - x, event.clientY - y) < 3) return;
        onView({
          ...from,
          x: from.x - (event.clientX - x) / from.zoom,
          y: from.y - (event.clientY - y) / from.zoom,
        });
      }}
      onPointerUp={() => {
        pan.current = null;
        begun.current = null;
      }}
      onPointerLeave={() => onPoint(null)}
      onDoubleClick={() => onView(null)}
    >
      <canvas
        ref={canvas}
        className="absolute inset-0 h-full w-full"
        data-drawn-level={drawn ? drawnLevel : ""}
      />
      <Overview view={shown} room={room} frame={frame} />
      {mark && <MarkShown mark={mark} view={shown} room={room} />}
      {wipe && <WipeLine wipe={wipe} view={shown} room={room} frame={frame} />}
    </div>
  );
}

function MarkShown({ mark, view, room }: { mark: Mark; view: View; room: Size }) {
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

function WipeLine({ wipe, view, room, frame }: { wipe: Wipe; view: View; room: Size; frame: Size }) {
  const [x, middle] = toScreen(view, room, wipe.at * frame.width, frame.height / 2);
  const held = (at: number) => wipe.onMove(Math.max(0, Math.min(1, at)));
  return (
    <div
      role="slider"
      aria-label="Wipe"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(wipe.at * 100)}
      tabIndex={0}
      className="absolute inset-y-0 w-4 -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: Math.max(6, Math.min(room.width - 6, x)) }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
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

/** One scratch canvas: raw pixels cannot be scaled while they are put. */
const scratch = document.createElement("canvas");

/** `part`: only what lies right of a line through a share of the frame's width is painted. */
function paint(
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
