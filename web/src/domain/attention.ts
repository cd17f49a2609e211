/** What of an element is for a person to decide. */
import type { ElementOut } from "../api/client";

/** Whether its reading is a guess: its alpha is used, and neither a person nor the file says how it is meant. */
export function needsConfirming(element: ElementOut): boolean {
  const facts = element.facts;
  return !!facts?.alpha && facts.alpha_use === "used" && !facts.alpha_claim && !element.reading_set;
}

/** Whether the pixels speak clearly for another reading than the one that nobody has chosen. */
export function doubted(element: ElementOut): boolean {
  const said = element.suggestion?.reading;
  if (!said || element.reading_set || !element.suggestion?.sure) return false;
  const now = element.reading;
  const far = said.matte.some((v, i) => Math.abs(v - (now.matte[i] ?? 0)) > 0.02);
  return (
    said.alpha !== now.alpha ||
    said.inverted !== now.inverted ||
    (said.alpha === "premultiplied" && (far || said.multiplied !== now.multiplied))
  );
}

/** Whether anything of it is. */
export function wantsAttention(element: ElementOut): boolean {
  return (
    element.state === "refused" ||
    element.replaced ||
    (element.facts?.missing.length ?? 0) > 0 ||
    doubted(element) ||
    needsConfirming(element)
  );
}
