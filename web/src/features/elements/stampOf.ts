/** What the picture of an element depends on besides the frame, its reading and its encoding. */
import type { ElementOut } from "../../api/client";

/** Another text once a gap is filled in another way, a channel is data, a part is joined, or its file is another. */
export function stampOf(element: ElementOut): string {
  const { gaps, kinds, parts, state, replaced, facts } = element;
  return JSON.stringify([gaps, kinds, parts, state, replaced, facts?.bytes, facts?.first, facts?.last]);
}
