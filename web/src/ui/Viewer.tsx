/** The picture with nothing lying on it: fit, zoom to pixels, pan, and the point under the pointer. */
import {
  useEffect,
  useId,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type PointerEvent,
  type ReactNode,
  type RefObject,
} from "react";
import type { Drawn } from "../api/pictures";
import {
  fitView,
  levelFor,
  toComp,
  visibleRegion,
  zoomAt,
  type Region,
  type Size,
  type View,
} from "../domain/geometry";
import { KeyPointer, pointByKeys, useKeyPointer } from "./KeyPointer";
import { markOf, type Mark } from "./marks";
import { MarkShown, WipeLine, type Wipe } from "./overlays";
import { Overview } from "./Overview";
import { paint } from "./paint";
import { paintPixels } from "./pixels";
import { hold } from "./hold";

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
  /** What is drawn over the picture and takes the pointer there. */
  over?: ((view: View, room: Size) => ReactNode) | undefined;
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
  const own = useId();
  const keyed = useKeyPointer((s) => s.viewer === own);
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
      data-viewer={own}
      onKeyDown={(event) => {
        if (event.key !== "Enter" || event.target !== event.currentTarget) return;
        event.preventDefault();
        event.stopPropagation();
        pointByKeys(event.currentTarget);
      }}
      data-keyed={keyed || undefined}
      className={`group/picture relative h-full min-h-0 w-full touch-none overflow-hidden bg-surround ${onPick || drawing ? "cursor-crosshair" : ""}`}
      onPointerDown={(event) => {
        const point = inside(at(event));
        if (onPick) {
          if (point) onPick(point);
          return;
        }
        if (drawing && onMark) {
          hold(event.currentTarget, event.pointerId);
          begun.current = at(event);
          return;
        }
        hold(event.currentTarget, event.pointerId);
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
      {props.over && room.width > 0 && props.over(shown, room)}
      {keyed && room.width > 0 && <KeyPointer room={room} />}
      {wipe && <WipeLine wipe={wipe} view={shown} room={room} frame={frame} />}
    </div>
  );
}
