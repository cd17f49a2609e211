/** Some layers looked at without the others: the document itself stays as it is. */
import { layerOf, ofBeneath, type CompDocument, type Layer } from "./comp";

/** Those of the ids that the document has. */
export function aloneIn(document: CompDocument, ids: readonly string[]): string[] {
  return ids.filter((id) => layerOf(document, id));
}

/** The ids with those of the layers that an adjustment among them changes: without these it is nothing. */
function withBeneath(layers: readonly Layer[], ids: readonly string[]): string[] {
  return layers.flatMap((layer, i) => {
    if (layer.kind === "group" && !ids.includes(layer.id)) return withBeneath(layer.layers, ids);
    if (!ids.includes(layer.id)) return [];
    return ofBeneath(layer) ? [layer.id, ...layers.slice(0, i).map((l) => l.id)] : [layer.id];
  });
}

/** Whether a layer is seen: where some are shown alone, one of them, in one of them, or around one. */
export function seenAlone(document: CompDocument, ids: readonly string[], id: string): boolean {
  const chosen = withBeneath(document.layers, ids);
  const within = (layers: readonly Layer[], inside: boolean): boolean =>
    layers.some((layer) => {
      const seen = inside || chosen.includes(layer.id);
      if (layer.id === id) return seen || holds(layer, chosen);
      return layer.kind === "group" && within(layer.layers, seen);
    });
  return aloneIn(document, ids).length === 0 || within(document.layers, false);
}

/** The document with all others hidden. */
export function shownAlone(document: CompDocument, ids: readonly string[]): CompDocument {
  if (aloneIn(document, ids).length === 0) return document;
  const chosen = withBeneath(document.layers, ids);
  const only = (layers: Layer[]): Layer[] =>
    layers.map((layer) => {
      if (chosen.includes(layer.id)) return layer;
      if (layer.kind === "group" && holds(layer, chosen)) return { ...layer, layers: only(layer.layers) };
      return { ...layer, shown: false };
    });
  return { ...document, layers: only(document.layers) };
}

function holds(layer: Layer, ids: readonly string[]): boolean {
  return layer.kind === "group" && layer.layers.some((l) => ids.includes(l.id) || holds(l, ids));
}
