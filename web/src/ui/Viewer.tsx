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
  const pan = useRef<{ x: number; y: number; view: View } | null>(null);
  const room = useRoom(holder);
  const shown = useMemo(() => view ?? fitView(frame, room), [view, frame, room]);

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
    paint(node.getContext("2d")!, shown, room, ratio, drawn, drawnLevel, frame);
  }, [shown, room, drawn, drawnLevel, frame]);
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
      className={`relative h-full min-h-0 w-full touch-none overflow-hidden bg-surround ${onPick ? "cursor-crosshair" : ""}`}
      onPointerDown={(event) => {
        const point = inside(at(event));
        if (onPick) {
          if (point) onPick(point);
          return;
        }
        event.currentTarget.setPointerCapture(event.pointerId);
        pan.current = { x: event.clientX, y: event.clientY, view: shown };
      }}
      onPointerMove={(event) => {
        onPoint(inside(at(event)));
        if (!pan.current) return;
        const { x, y, view: from } = pan.current;
        if (Math.hypot(event.clientX - x, event.clientY - y) < 3) return;
        onView({
          ...from,
          x: from.x - (event.clientX - x) / from.zoom,
          y: from.y - (event.clientY - y) / from.zoom,
        });
      }}
      onPointerUp={() => (pan.current = null)}
      onPointerLeave={() => onPoint(null)}
      onDoubleClick={() => onView(null)}
    >
      <canvas
        ref={canvas}
        className="absolute inset-0 h-full w-full"
        data-drawn-level={drawn ? drawnLevel : ""}
      />
    </div>
  );
}

/** One scratch canvas: raw pixels cannot be scaled while they are put. */
const scratch = document.createElement("canvas");

function paint(
  context: CanvasRenderingContext2D,
  view: View,
  room: Size,
  ratio: number,
  drawn: Drawn | null,
  level: number,
  frame: Size,
): void {
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.clearRect(0, 0, room.width, room.height);
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
  // From twice the size on, single pixels are looked at: they stay squares.
  context.imageSmoothingEnabled = view.zoom * step < 2;
  context.imageSmoothingQuality = "high";
  context.drawImage(source, left, top, right - left, bottom - top);
  context.restore();
}
