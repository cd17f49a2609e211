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

interface Edges {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** The same where rows stand side by side and go on in the next line, as words of a text do. */
export function placeInLines(boxes: readonly Edges[], from: number, x: number, y: number): number {
  const before = (b: Edges) => b.bottom < y || (b.top <= y && (b.left + b.right) / 2 < x);
  return boxes.filter((b, i) => i !== from && before(b)).length;
}

/** A list with one of its rows put elsewhere. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list];
  next.splice(to, 0, ...next.splice(from, 1));
  return next;
}

/** Rows are marked by `data-row`; ``axis``: the way they follow each other, or lines of them. */
export function useReorder(
  list: RefObject<HTMLElement | null>,
  axis: "x" | "y" | "lines",
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
      const start = [event.clientX, event.clientY] as const;
      const rows = [...(list.current?.querySelectorAll<HTMLElement>("[data-row]") ?? [])];
      const from = rows.findIndex((r) => r.dataset["row"] === row);
      const boxes = rows.map((r) => r.getBoundingClientRect());
      const middles = boxes.map((b) => (axis === "x" ? (b.left + b.right) / 2 : (b.top + b.bottom) / 2));
      const placeOf = (e: { clientX: number; clientY: number }) =>
        axis === "lines"
          ? placeInLines(boxes, from, e.clientX, e.clientY)
          : placeAt(middles, from, axis === "x" ? e.clientX : e.clientY);
      const far = (e: { clientX: number; clientY: number }) => {
        const [dx, dy] = [Math.abs(e.clientX - start[0]), Math.abs(e.clientY - start[1])];
        return axis === "lines" ? Math.max(dx, dy) : axis === "x" ? dx : dy;
      };
      const stop = new AbortController();
      let to: number | null = null;
      const listen = (kind: "pointermove" | "pointerup" | "pointercancel", act: (e: MouseEvent) => void) =>
        window.addEventListener(kind, act, { signal: stop.signal });
      const end = () => {
        stop.abort();
        setDrag(null);
      };
      listen("pointermove", (e) => {
        if (to === null && far(e) <= SLACK) return;
        to = placeOf(e);
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
