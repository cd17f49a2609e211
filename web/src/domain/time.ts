/** Frames in time. */

/** The frame to show so long after playing began; null when the end is reached and nothing loops. */
export function frameAt(
  begin: number,
  elapsedSeconds: number,
  rate: number,
  first: number,
  last: number,
  loop: Loop,
): number | null {
  const count = last - first + 1;
  const steps = begin - first + Math.floor(elapsedSeconds * rate);
  if (loop === "off") return steps >= count ? null : first + steps;
  if (loop === "loop" || count === 1) return first + (((steps % count) + count) % count);
  // there and back: the ends are shown once
  const there = steps % (2 * count - 2);
  return first + (there < count ? there : 2 * count - 2 - there);
}

/** How playing goes on at the end of the range. */
export type Loop = "off" | "loop" | "swing";

/** The frame that stands for an element: the middle one, or the nearest to it that is there. */
export function restingFrame(facts: { first: number; last: number; missing: number[] }): number {
  const middle = Math.floor((facts.first + facts.last) / 2);
  for (let far = 0; far <= facts.last - facts.first; far += 1) {
    for (const frame of [middle + far, middle - far]) {
      if (frame >= facts.first && frame <= facts.last && !facts.missing.includes(frame)) return frame;
    }
  }
  return middle;
}

export function clampFrame(frame: number, first: number, last: number): number {
  return Math.max(first, Math.min(last, Math.round(frame)));
}
