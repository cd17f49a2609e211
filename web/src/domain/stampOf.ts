/** What every picture of an element depends on besides the frame. */
import type { ElementOut } from "../api/client";

/** Another text once it is read in another way, a gap is filled, a channel is data, a part is joined, its file is another. */
export function stampOf(element: ElementOut): string {
  const { reading, encoding, rate, gaps, kinds, holds, parts, state, replaced, facts } = element;
  const file = [state, replaced, facts?.bytes, facts?.first, facts?.last];
  return JSON.stringify([reading, encoding, rate, gaps, kinds, holds, parts, ...file]);
}
