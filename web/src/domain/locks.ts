/** Layers that are locked: they, and what they hold, are seen and not changed. */
import { allLayers, changeLayer, layerOf, type CompDocument, type Layer } from "./comp";
import { holdersOf, parentOf } from "./tree";

/** The id of what locks a layer: its own, or that of a group that holds it; null where nothing does. */
export function lockOf(document: CompDocument, id: string): string | null {
  const around = [layerOf(document, id), ...holdersOf<Layer>(document.layers, id)];
  return around.find((layer) => layer?.locked)?.id ?? null;
}

/**
 * The id of a locked layer that a change would touch: change, move into or out of a group, or take out.
 * It may be hidden and shown.
 */
export function lockedTouched(before: CompDocument, after: CompDocument): string | null {
  if (before.layers === after.layers) return null;
  const touched = allLayers(before).find((layer) => {
    if (!layer.locked) return false;
    const then = layerOf(after, layer.id);
    if (then === layer) return parentOf(before.layers, layer.id)?.id !== parentOf(after.layers, layer.id)?.id;
    return !then || JSON.stringify({ ...then, locked: true, shown: layer.shown }) !== JSON.stringify(layer);
  });
  return touched?.id ?? null;
}

/** All of them locked; or free, where all of them are locked. */
export function lockedOrFree(document: CompDocument, ids: readonly string[]): CompDocument {
  const locked = !ids.every((id) => layerOf(document, id)?.locked);
  return ids.reduce((d, id) => changeLayer(d, id, { locked }), document);
}
