/** Over the picture of a scene whose camera is placed by hand: drag, Shift and drag, wheel. */
import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from "react";
import { nearer, orbited, panned, type Orbit } from "../../domain/orbit";
import { changeCamera, orbitAt, type Placed } from "./cameraEdits";
import { useSetup } from "./setupStore";
import { text } from "./strings";
import { ARROWS } from "../../ui/arrows";
import { hold } from "../../ui/hold";

const t = text.OrbitOver;

interface Props {
  camera: Placed;
  frame: number;
  /** Pixels on the screen that the frame is high. */
  height: number;
}

/** Milliseconds after the last turn of the wheel until it is an entry of undo. */
const WHEEL_REST = 300;
/** Pixels that an arrow key is worth. */
const ARROW = 12;

export function OrbitOver({ camera, frame, height }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const begun = useRef<{ x: number; y: number; orbit: Orbit } | null>(null);
  const moved = (event: { clientX: number; clientY: number; shiftKey: boolean }) => {
    const from = begun.current!;
    const [dx, dy] = [event.clientX - from.x, event.clientY - from.y];
    return event.shiftKey ? panned(from.orbit, dx, dy, height) : orbited(from.orbit, dx, dy);
  };
  const end = (event: PointerEvent) => {
    if (!begun.current) return;
    changeCamera(moved(event), frame, "commit");
    begun.current = null;
  };
  useEffect(() => {
    const node = holder.current!;
    let rest = 0;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      event.stopPropagation();
      const now = useSetup.getState().working?.document.placed_camera;
      if (!now) return;
      const factor = Math.exp(event.deltaY * (event.deltaMode === 1 ? 0.03 : 0.001));
      changeCamera(nearer(orbitAt(now, frame), factor), frame, "sketch");
      window.clearTimeout(rest);
      rest = window.setTimeout(() => changeCamera({}, frame, "commit"), WHEEL_REST);
    };
    node.addEventListener("wheel", onWheel, { passive: false });
    return () => node.removeEventListener("wheel", onWheel);
  }, [frame]);
  const onKeyDown = (event: KeyboardEvent) => {
    const way = ARROWS[event.key];
    if (!way) return;
    event.preventDefault();
    const [dx, dy] = [way[0] * ARROW, way[1] * ARROW];
    const orbit = orbitAt(camera, frame);
    changeCamera(event.shiftKey ? panned(orbit, dx, dy, height) : orbited(orbit, dx, dy), frame, "commit");
  };
  return (
    <div
      ref={holder}
      role="application"
      aria-label={t.moveTheCamera}
      tabIndex={0}
      className="absolute inset-0 cursor-move touch-none"
      onPointerDown={(event) => {
        event.stopPropagation();
        if (event.button !== 0) return;
        hold(event.currentTarget, event.pointerId);
        begun.current = { x: event.clientX, y: event.clientY, orbit: orbitAt(camera, frame) };
      }}
      onPointerMove={(event) => begun.current && changeCamera(moved(event), frame, "sketch")}
      onPointerUp={end}
      onPointerCancel={end}
      onDoubleClick={(event) => event.stopPropagation()}
      onKeyDown={onKeyDown}
    />
  );
}
