/** Pulling a thread from one card onto another: what is let go over is to be cut. */
import { useCallback, useLayoutEffect, useRef, useState, type PointerEvent } from "react";

export interface Pull {
  from: [number, number];
  to: [number, number];
}

/** ``onJoin``: ids of the layer pulled from and of the one let go over. */
export function usePull(onJoin: (from: string, to: string) => void) {
  const [pull, setPull] = useState<Pull | null>(null);
  const joined = useRef(onJoin);
  useLayoutEffect(() => {
    joined.current = onJoin;
  });
  const begin = useCallback((event: PointerEvent, id: string) => {
    if (event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    const from: [number, number] = [event.clientX, event.clientY];
    const stop = new AbortController();
    const { signal } = stop;
    const end = () => {
      stop.abort();
      setPull(null);
    };
    window.addEventListener("pointermove", (e) => setPull({ from, to: [e.clientX, e.clientY] }), { signal });
    window.addEventListener(
      "pointerup",
      (e) => {
        const over = document.elementFromPoint(e.clientX, e.clientY)?.closest<HTMLElement>("[data-layer]");
        end();
        const to = over?.dataset["layer"];
        if (to && to !== id) joined.current(id, to);
      },
      { signal },
    );
    window.addEventListener("pointercancel", end, { signal });
    window.addEventListener("keydown", (e) => e.key === "Escape" && end(), { signal });
  }, []);
  return { pull, begin };
}

export function PullLine({ pull }: { pull: Pull }) {
  const [[x0, y0], [x1, y1]] = [pull.from, pull.to];
  return (
    <svg aria-hidden className="pointer-events-none fixed inset-0 z-50 h-full w-full">
      <path
        d={`M ${x0} ${y0} Q ${(x0 + x1) / 2} ${Math.min(y0, y1) - 40} ${x1} ${y1}`}
        fill="none"
        className="stroke-accent"
        strokeWidth={2}
      />
      <circle cx={x1} cy={y1} r={4} className="fill-accent" />
    </svg>
  );
}
