/** A pointer that was pressed keeps to what it pressed, wherever it moves. */

/** The pointer that keys move: it keeps to what it presses by itself. */
export const BY_KEYS = -7;

export function hold(element: Element, pointer: number): void {
  if (pointer !== BY_KEYS) element.setPointerCapture(pointer);
}
