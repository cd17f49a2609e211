/** Beads on a line under a histogram: dragged, or nudged with the arrow keys. */
import { useRef, type KeyboardEvent, type PointerEvent } from "react";

export interface Handle {
  name: string;
  /** 0..1 along the track; beyond it stands at the end. */
  value: number;
  sign: string;
  /** What is said of it; 8-bit codes where nothing else. */
  says?: string;
  set: (value: number, done: boolean) => void;
}

export const held = (value: number, low: number, high: number) => Math.max(low, Math.min(high, value));

export function Track({ handles }: { handles: Handle[] }) {
  const track = useRef<HTMLDivElement>(null);
  const place = (event: PointerEvent) => {
    const box = track.current!.getBoundingClientRect();
    return held((event.clientX - box.left) / box.width, 0, 1);
  };
  const nudge = (handle: Handle, event: KeyboardEvent) => {
    const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    const by = (event.shiftKey ? 10 : event.altKey ? 0.1 : 1) / 255;
    handle.set(held(handle.value + way * by, 0, 1), true);
  };
  return (
    <div ref={track} className="relative mx-1 h-3">
      {handles.map((handle) => (
        <button
          key={handle.name}
          type="button"
          role="slider"
          aria-label={handle.name}
          aria-valuemin={0}
          aria-valuemax={255}
          aria-valuenow={Math.round(handle.value * 255)}
          aria-valuetext={handle.says}
          title={handle.says ? `${handle.name}: ${handle.says}` : handle.name}
          className="absolute top-0 -translate-x-1/2 cursor-ew-resize touch-none rounded-sm"
          style={{ left: `${held(handle.value, 0, 1) * 100}%` }}
          onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
          onPointerMove={(event) =>
            event.currentTarget.hasPointerCapture(event.pointerId) && handle.set(place(event), false)
          }
          onPointerUp={(event) =>
            event.currentTarget.hasPointerCapture(event.pointerId) && handle.set(place(event), true)
          }
          onKeyDown={(event) => nudge(handle, event)}
        >
          <svg viewBox="0 0 12 12" className="size-3" aria-hidden>
            <circle cx={6} cy={6} r={5} className={`${handle.sign} stroke-accent`} strokeWidth={1.5} />
          </svg>
        </button>
      ))}
    </div>
  );
}
