/** Layers duplicated; or copied, and put into the same comp or another one of the project. */
import { besideOf, freeId, freeName, layerOf, renumbered, type CompDocument, type Layer } from "./comp";
import { remember, remembered } from "./remember";
import { insertIn, parentOf, walk } from "./tree";

export interface Copied {
  project: number;
  comp: number;
  layers: Layer[];
}

const KEY = "layers";

/** Kept by the browser: for other comps, other tabs and after a reload. */
export const keepCopied = (copied: Copied): void => remember(KEY, JSON.stringify(copied));

/** What was copied, in whichever project; null where nothing was. */
export function keptCopied(): Copied | null {
  const kept = JSON.parse(remembered(KEY) ?? "null") as Copied | null;
  return kept && kept.layers.length > 0 ? kept : null;
}

const NAMES_SOURCES = new Set(["element", "source", "second"]);

/** What layers show and take besides layers: keys of elements, and of comps, of their project. */
export function keysNamed(layers: readonly Layer[]): string[] {
  const found = new Set<string>();
  JSON.stringify(layers, (name, value: unknown) => {
    if (NAMES_SOURCES.has(name) && typeof value === "string" && value && !value.startsWith("layer:"))
      found.add(value);
    return value;
  });
  return [...found];
}

/** The font files that texts are set in, by the keys of their fonts. */
export function fontsNamed(layers: readonly Layer[]): string[] {
  return [...new Set(JSON.stringify(layers).match(/"font":"own-[0-9a-f-]+"/g))].map((found) =>
    found.slice(8, -1),
  );
}

/** Copied layers as they are in another project, where their elements have other keys. */
export function inProject(copied: Copied, project: number, keys: Readonly<Record<string, string>>): Copied {
  const layers = JSON.parse(JSON.stringify(copied.layers), (name, value: unknown) =>
    NAMES_SOURCES.has(name) && typeof value === "string" ? (keys[value] ?? value) : value,
  ) as Layer[];
  return { ...copied, project, layers };
}

/**
 * Copied layers in front of a layer, or nearest to the lens; and their new ids.
 *
 * They go on naming one another. What they name besides is there in the same comp alone: in another a layer
 * of the same id is another one, so it is named as one that is gone.
 */
export function pasted(
  document: CompDocument,
  copied: Copied,
  comp: number,
  before: string | null,
): [CompDocument, string[]] {
  const ids = new Map<string, string>();
  const used = new Set<string>();
  const fresh = (base: string) => {
    const id = freeId(document, base, used);
    used.add(id);
    return id;
  };
  const all = walk(copied.layers).map((l) => l.id);
  // what was cut out of this comp comes back as itself: others may name it
  const kept = copied.comp === comp ? all.filter((id) => !layerOf(document, id)) : [];
  for (const id of kept) used.add(id);
  for (const id of all) ids.set(id, kept.includes(id) ? id : fresh("layer"));
  if (copied.comp !== comp)
    for (const named of namedLayers(copied.layers)) if (!ids.has(named)) ids.set(named, fresh("gone"));
  const target = before !== null && layerOf(document, before) ? before : null;
  const parent = target === null ? null : (parentOf(document.layers, target)?.id ?? null);
  let at = target === null ? document.layers.length : besideOf(document, target).index + 1;
  let now = document;
  const roots = copied.layers.map((layer) => {
    const copy = { ...renumbered(layer, ids), name: freeName(now, layer.name), locked: false };
    now = { ...now, layers: insertIn<Layer>(now.layers, parent, at, copy) };
    at += 1;
    return copy.id;
  });
  return [now, roots];
}

/** A copy right in front of the layer; of a group with copies of its members, which name one another. */
export function duplicateLayer(document: CompDocument, id: string): [CompDocument, string] {
  const source = layerOf(document, id);
  if (!source) return [document, id];
  const here = 0; // whichever comp it is: copied and pasted in the same one
  const [now, [copy]] = pasted(document, { project: here, comp: here, layers: [source] }, here, id);
  return [now, copy!];
}

/** Each a copy right in front of it, and the copies' ids in the same order. */
export function duplicateLayers(document: CompDocument, ids: readonly string[]): [CompDocument, string[]] {
  return ids.reduce<[CompDocument, string[]]>(
    ([now, copies], id) => {
      const [next, copy] = duplicateLayer(now, id);
      return [next, [...copies, copy]];
    },
    [document, []],
  );
}

/** The ids of layers that steps and mattes name. */
function namedLayers(layers: readonly Layer[]): string[] {
  const text = JSON.stringify(layers);
  return [...text.matchAll(/"layer:([A-Za-z0-9_-]{1,64})"/g)].map((found) => found[1]!);
}
