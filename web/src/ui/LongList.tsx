/** A list of any length: only what is near the window is in the page. */
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, type ReactNode } from "react";

/** A list of no more rows is in the page whole: what is looked for in the page is found. */
const WHOLE = 60;

interface Props<T> {
  /** What the list is called. */
  name: string;
  rows: readonly T[];
  keyOf: (row: T) => number | string;
  /** Height of a row before it has been measured, and the room between two, in pixels. */
  height: number;
  gap: number;
  className?: string;
  /** Brought into the window when it becomes another. */
  at?: number | string | undefined;
  children: (row: T) => ReactNode;
}

export function LongList<T>({ name, rows, keyOf, height, gap, className = "", at, children }: Props<T>) {
  const holder = useRef<HTMLUListElement>(null);
  // the compiler, which cannot keep what this library gives, is not used here
  // eslint-disable-next-line react-hooks/incompatible-library
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => holder.current,
    getItemKey: (index) => keyOf(rows[index]!),
    estimateSize: () => height,
    initialRect: { width: 0, height: 800 },
    overscan: rows.length <= WHOLE ? WHOLE : 6,
    gap,
  });
  const index = at === undefined ? -1 : rows.findIndex((row) => keyOf(row) === at);
  const before = useRef<number | string | undefined>(undefined);
  useEffect(() => {
    if (index < 0 || before.current === at) return;
    before.current = at;
    list.scrollToIndex(index, { align: "auto" });
  }, [index, at, list]);
  return (
    <ul ref={holder} aria-label={name} className={`relative min-h-0 flex-1 overflow-auto ${className}`}>
      {list.getVirtualItems().map((item) => (
        <li
          key={item.key}
          ref={list.measureElement}
          data-index={item.index}
          aria-setsize={rows.length}
          aria-posinset={item.index + 1}
          className="absolute inset-x-0"
          style={{ top: item.start }}
        >
          {children(rows[item.index]!)}
        </li>
      ))}
      {/* as high as all of them, so that the list scrolls over their whole length */}
      <li role="presentation" style={{ height: list.getTotalSize() }} />
    </ul>
  );
}
