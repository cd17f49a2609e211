/** What the arrow keys move by. */
import type { KeyboardEvent } from "react";

/** The ways that they lead, right and down. */
export const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** By how many pixels a key moves what it moves, right and down: 10 with Shift, a tenth with Alt. */
export function stepOf(event: KeyboardEvent): [number, number] | null {
  const arrow = ARROWS[event.key];
  if (!arrow) return null;
  const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
  return [arrow[0] * size, arrow[1] * size];
}
