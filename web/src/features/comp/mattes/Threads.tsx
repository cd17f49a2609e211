/** Threads between cards: from a matte's source to the layer it cuts, arching above them, with its words. */
import { useEffect, useState, type RefObject } from "react";
import type { Thread } from "../../../domain/mattes";
import { text } from "../strings";

const t = text.Threads;

interface Drawn extends Thread {
  x0: number;
  x1: number;
}

/** Room above the cards that threads arch through. */
export const ROOM = 28;

export function Threads({ row, threads }: { row: RefObject<HTMLElement | null>; threads: Thread[] }) {
  const [drawn, setDrawn] = useState<{ lines: Drawn[]; width: number }>({ lines: [], width: 0 });
  const wanted = JSON.stringify(threads);
  // not a layout effect: the row is known to its children only after it
  useEffect(() => {
    const node = row.current;
    if (!node) return;
    const measure = () => {
      const left = node.getBoundingClientRect().left - node.scrollLeft;
      const middle = (id: string) => {
        const card = node.querySelector<HTMLElement>(`[data-layer="${id}"]`);
        if (!card) return null;
        const box = card.getBoundingClientRect();
        return (box.left + box.right) / 2 - left;
      };
      const lines = (JSON.parse(wanted) as Thread[]).flatMap((thread) => {
        const [x0, x1] = [middle(thread.from), middle(thread.to)];
        return x0 === null || x1 === null ? [] : [{ ...thread, x0, x1 }];
      });
      setDrawn({ lines, width: node.scrollWidth });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(node);
    // cards move while one is dragged or renamed
    const moved = new MutationObserver(measure);
    moved.observe(node, { childList: true, subtree: true, characterData: true });
    return () => {
      observer.disconnect();
      moved.disconnect();
    };
  }, [row, wanted]);
  return (
    <svg
      role="img"
      aria-label={threads.map((thread) => t.ofCuts(thread.words, thread.from, thread.to)).join("; ")}
      width={drawn.width}
      height={ROOM}
      className="pointer-events-none absolute top-0 left-0 overflow-visible"
    >
      {drawn.lines.map((line, i) => {
        const top = 5 + (i % 4) * 6;
        const way = line.x1 > line.x0 ? 1 : -1;
        const [from, to] = [line.x0 + 9 * way, line.x1 - 9 * way];
        return (
          <g key={`${line.from} ${line.to}`}>
            <path
              d={`M ${from} ${ROOM} C ${from} ${top}, ${from + 14 * way} ${top}, ${from + 24 * way} ${top} L ${to - 24 * way} ${top} C ${to - 14 * way} ${top}, ${to} ${top}, ${to} ${ROOM}`}
              fill="none"
              className="stroke-accent"
              strokeWidth={1.6}
            />
            <circle cx={from} cy={ROOM} r={2.5} className="fill-accent" />
            <path
              d={`M ${to - 4} ${ROOM - 6} L ${to} ${ROOM} L ${to + 4} ${ROOM - 6}`}
              fill="none"
              className="stroke-accent"
              strokeWidth={1.6}
            />
            <text
              x={from + (to - from) * (0.35 + 0.15 * (i % 3))}
              y={top + 4}
              textAnchor="middle"
              className="fill-accent text-[12px] font-medium [paint-order:stroke] [stroke-width:5px] [stroke:var(--well)]"
            >
              {line.words.length > 28 ? `${line.words.slice(0, 26)} …` : line.words}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
