/** Drafts keep up with the hand: where they come too late, the next ones are drawn at half the size. */
import type { Wanted } from "../../ui/Viewer";

/** Milliseconds from asking to having a draft above which the next ones are coarser, and below which they are not. */
const SLOW = 40;
const QUICK = 14;
/** Milliseconds without a move after which a draft is drawn as fine as ever. */
export const RESTING = 250;

let coarser = 0;
/** How many drafts in a row were slow: one alone may have had to read files. */
let slow = 0;

/** How long the newest draft took. */
export function setPace(milliseconds: number): void {
  slow = milliseconds > SLOW ? slow + 1 : 0;
  if (coarser === 0 && slow >= 2) coarser = 1;
  else if (coarser === 1 && milliseconds < QUICK) coarser = 0;
}

/** What to ask for a draft: all of what is wanted, at the level that keeps up. */
export function paced(wanted: Wanted): Wanted {
  if (coarser === 0) return wanted;
  const { level, region } = wanted;
  if (!region) return { level: level + 1, region };
  const [x0, y0, x1, y1] = region;
  return {
    level: level + 1,
    region: [Math.floor(x0 / 2), Math.floor(y0 / 2), Math.ceil(x1 / 2), Math.ceil(y1 / 2)],
  };
}
