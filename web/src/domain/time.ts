/** Frames in time. */

/** The frame to show so long after playing began; null when the end is reached and nothing loops. */
export function frameAt(
  begin: number,
  elapsedSeconds: number,
  rate: number,
  first: number,
  last: number,
  loop: boolean,
): number | null {
  const count = last - first + 1;
  const steps = begin - first + Math.floor(elapsedSeconds * rate);
  if (steps >= count && !loop) return null;
  return first + (((steps % count) + count) % count);
}

export function clampFrame(frame: number, first: number, last: number): number {
  return Math.max(first, Math.min(last, Math.round(frame)));
}
