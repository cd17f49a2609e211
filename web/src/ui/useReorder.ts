/** Dragging one of a list's rows to another place. The window is listened to: the row moves meanwhile. */
import { useCallback, useLayoutEffect, useRef, useState, type PointerEvent, type RefObject } from "react";

export interface Reorder {
  /** The row that is dragged and the place it would drop to. */
  drag: { from: number; to: number } | null;
  /** ``row``: what the pressed one has as `data-row`. The same function as long as the list is. */
  begin: (event: PointerEvent, row: string) => void;
}

/** Pixels the pointer must move before a press becomes a drag. */
const SLACK = 5;

/** The place among the rows, the dragged one left out, that lies at this point. */
export function placeAt(middles: readonly number[], from: number, at: number): number {
  return middles.filter((m, i) => i !== from && m < at).length;
}

/** A list with one of its rows put elsewhere. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list];
  next.splice(to, 0, ...next.splice(from, 1));
  return next;
}

/** Rows are marked by `data-row`; ``axis``: the way they follow each other. */
export function useReorder(
  list: RefObject<HTMLElement | null>,
  axis: "x" | "y",
  onDrop: (from: number, to: number) => void,
): Reorder {
  const [drag, setDrag] = useState<Reorder["drag"]>(null);
  const dropped = useRef(onDrop);
  useLayoutEffect(() => {
    dropped.current = onDrop;
  });

  const begin = useCallback(
    (event: PointerEvent, row: string) => {
      if (event.button !== 0) return;
      const pointer = (e: { clientX: number; clientY: number }) => (axis === "x" ? e.clientX : e.clientY);
      const start = pointer(event);
      const rows = [...(list.current?.querySelectorAll<HTMLElement>("[data-row]") ?? [])];
      const from = rows.findIndex((r) => r.dataset["row"] === row);
      const middles = rows.map((r) => {
        const box = r.getBoundingClientRect();
        return axis === "x" ? (box.left + box.right) / 2 : (box.top + box.bottom) / 2;
      });
      const stop = new AbortController();
      let to: number | null = null;
      const listen = (kind: "pointermove" | "pointerup" | "pointercancel", act: (at: number) => void) =>
        window.addEventListener(kind, (e) => act(pointer(e)), { signal: stop.signal });
      const end = () => {
        stop.abort();
        setDrag(null);
      };
      listen("pointermove", (at) => {
        if (to === null && Math.abs(at - start) <= SLACK) return;
        to = placeAt(middles, from, at);
        setDrag({ from, to });
      });
      listen("pointerup", () => {
        end();
        if (to !== null && to !== from) dropped.current(from, to);
      });
      listen("pointercancel", end);
    },
    [list, axis],
  );
  return { drag, begin };
}
