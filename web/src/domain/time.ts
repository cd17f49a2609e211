/** Frames in time. */
import { ratePerSecond } from "./words";

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
export type Loop = "off" | "loop" | "ping-pong";

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

export interface Clip {
  kind: string;
  first: number;
  last: number;
}

/**
 * The comp's frames on which a layer shows frames of its element that are its own: the first and the last, or
 * null for a still. As the core conforms it: the frame shown is the last one that has begun.
 */
export function ownFrames(
  comp: { first: number; rate: string },
  layer: { offset: number; speed: number },
  clip: Clip,
  rate: string | null,
): [number, number] | null {
  if (clip.kind === "still") return null;
  const pace = layer.speed * framesOfItsOwn(comp, rate);
  const begin = comp.first + layer.offset;
  // the least number of frames that passes the last one, less one; a hair against the rounding of the pace
  return [begin, begin + Math.ceil((clip.last - clip.first + 1) / pace - 1e-6) - 1];
}

/** Frames of an element of that rate in one of the comp's. */
const framesOfItsOwn = (comp: { rate: string }, rate: string | null) =>
  rate ? ratePerSecond(rate) / ratePerSecond(comp.rate) : 1;

/** The own frame that freezes what a layer shows at a frame of the comp. Of a group the clip is the comp's range. */
export function frozenFrame(
  comp: { first: number; rate: string },
  layer: { offset: number; speed: number },
  clip: Clip,
  rate: string | null,
  frame: number,
): number {
  const rates = framesOfItsOwn(comp, rate);
  const passed = Math.floor((frame - comp.first - layer.offset) * layer.speed * rates + 1e-6);
  // the offset is taken off what is set, so it is added here
  return Math.min(Math.max(passed, 0), clip.last - clip.first) + clip.first + layer.offset * rates;
}

const BEYOND = {
  hold: "the nearest is held beyond",
  loop: "they come again beyond",
  "ping-pong": "they play ping-pong beyond",
  blank: "nothing beyond",
};

/** What a layer shows of its element on the comp's frames, in a sentence; nothing where all are its own. */
export function shortfallInWords(
  own: [number, number] | null,
  life: [number, number],
  ends: keyof typeof BEYOND,
): string {
  if (!own || (own[0] <= life[0] && own[1] >= life[1])) return "";
  return `Its element lasts from frame ${own[0]} to ${own[1]}; ${BEYOND[ends]}.`;
}
