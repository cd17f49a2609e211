/** Comps of the project as what layers of another comp show: beside the elements, in the same list. */
import type { CompRow, ElementOut } from "../api/client";

/** Whether a row of that list is a comp: it has colour and alpha alone, and no reading. */
export const isComp = (element: ElementOut): boolean => element.key.startsWith("c");

/** A comp as an element: premultiplied light over nothing, its own frame, rate and range. */
export function compAsElement(comp: CompRow): ElementOut {
  const { width, height, first, last, revision } = comp;
  // what depends on its pictures depends on its revision
  const facts = { kind: "sequence", width, height, first, last, missing: [], channels: [], bytes: revision };
  return {
    id: comp.id,
    key: comp.key,
    name: comp.name,
    folder: "",
    label: "",
    library: null,
    state: "ready",
    problem: null,
    facts: { ...facts, alpha: true, alpha_use: "used" } as unknown as ElementOut["facts"],
    reading: { alpha: "premultiplied", matte: [0, 0, 0], multiplied: "linear", inverted: false },
    reading_words: "premultiplied over black",
    reading_set: true,
    suggestion: null,
    encoding: "linear",
    rate: comp.rate,
    gaps: "error",
    only: null,
    parts: [],
    kinds: {},
    holds: "",
    has_alpha: true,
    replaced: false,
    changes: 0,
  };
}
