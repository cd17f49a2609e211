/** What every picture of an element depends on besides the frame. */
import type { ElementOut } from "../api/client";
import type { CompDocument } from "./comp";
import { isComp } from "./compSource";

/** Another text once it is read in another way, a gap is filled, a channel is data, a part is joined, its file is another. */
export function stampOf(element: ElementOut): string {
  const { reading, encoding, rate, gaps, kinds, holds, parts, state, replaced, facts } = element;
  const file = [state, replaced, facts?.bytes, facts?.first, facts?.last];
  return JSON.stringify([reading, encoding, rate, gaps, kinds, holds, parts, ...file]);
}

/** What a comp's pictures depend on besides its document: of an element that it does not show, nothing. */
export function stampOfShown(document: CompDocument, elements: readonly ElementOut[]): string {
  const told = JSON.stringify(document);
  const named = elements.filter((e) => told.includes(JSON.stringify(e.key)));
  // what lies in another comp, or is joined to an element, is not named here
  const more = named.some((e) => isComp(e) || e.parts.length > 0);
  return (more ? elements : named).map((e) => `${e.key} ${stampOf(e)}`).join();
}

/** The stamp of a document's pictures, with the cameras; of ``all`` elements where more than it is shown. */
export function stamping(
  elements: readonly ElementOut[],
  cameras: readonly { stamp: string }[],
  all: boolean,
): (document: CompDocument) => string {
  const every = elements.map((e) => `${e.key} ${stampOf(e)}`).join();
  let last: { document: CompDocument; stamp: string } | null = null;
  return (document) => {
    if (last?.document !== document) {
      const shown = all ? every : stampOfShown(document, elements);
      last = { document, stamp: [shown, ...cameras.map((c) => c.stamp)].join() };
    }
    return last.stamp;
  };
}
