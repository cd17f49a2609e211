/** The comp document and its edits: pure functions from document to document. */
import type { Full } from "../api/full";
import type { components } from "../api/schema";

type Written = Full<Omit<components["schemas"]["Comp"], "elements" | "layers">>;
type WrittenLayer = Full<components["schemas"]["Layer"]>;
type Known<T> = T extends { kind: infer K } ? (string extends K ? never : T) : never;
/** A step; one that is not known here has a kind that the table of steps does not list. */
export type Step = Known<WrittenLayer["steps"][number]>;
export type Layer = Omit<WrittenLayer, "steps"> & { steps: Step[] };
export type CompDocument = Written & { layers: Layer[] };
export type Transform = Layer["transform"];
export type Reading = Full<components["schemas"]["Reading"]>;
export type Encoding = string;

/** A document of the server as the page uses it: complete, and without the elements it adds. */
export function documentOf(data: components["schemas"]["Comp"]): CompDocument {
  const copy = { ...data };
  delete copy.elements;
  return copy as CompDocument;
}

export function newDocument(
  name: string,
  size: { width: number; height: number },
  rate: string,
  last: number,
): CompDocument {
  return { neatveil: 2, name, ...size, rate, first: 1, last, layers: [] };
}

export function layerOf(document: CompDocument, id: string | null): Layer | undefined {
  return document.layers.find((layer) => layer.id === id);
}

export function changeLayer(document: CompDocument, id: string, change: Partial<Layer>): CompDocument {
  return { ...document, layers: document.layers.map((l) => (l.id === id ? { ...l, ...change } : l)) };
}

export function changePlace(document: CompDocument, id: string, change: Partial<Transform>): CompDocument {
  const layer = layerOf(document, id);
  return layer ? changeLayer(document, id, { transform: { ...layer.transform, ...change } }) : document;
}

/** The steps of a layer as a function of what they are. */
export function changeSteps(
  document: CompDocument,
  id: string,
  change: (steps: Step[]) => Step[],
): CompDocument {
  const layer = layerOf(document, id);
  return layer ? changeLayer(document, id, { steps: change(layer.steps) }) : document;
}

export function changeStep(document: CompDocument, id: string, index: number, change: object): CompDocument {
  const layer = layerOf(document, id);
  if (!layer) return document;
  const steps = layer.steps.map((s, i) => (i === index ? { ...s, ...change } : s));
  return changeLayer(document, id, { steps });
}

/** Move a layer to a place in the pile; 0 is furthest from the lens. */
export function moveLayer(document: CompDocument, id: string, to: number): CompDocument {
  const from = document.layers.findIndex((l) => l.id === id);
  if (from < 0) return document;
  const layers = [...document.layers];
  const [layer] = layers.splice(from, 1);
  layers.splice(Math.max(0, Math.min(layers.length, to)), 0, layer!);
  return { ...document, layers };
}

export function removeLayer(document: CompDocument, id: string): CompDocument {
  return { ...document, layers: document.layers.filter((l) => l.id !== id) };
}

/** A new layer of an element, nearest to the lens. */
export function addLayer(document: CompDocument, element: string, name: string): [CompDocument, string] {
  const taken = new Set(document.layers.map((l) => l.id));
  let n = document.layers.length + 1;
  while (taken.has(`layer${n}`)) n += 1;
  const id = `layer${n}`;
  const layer: Layer = {
    id,
    name: freeName(document, name),
    element,
    shown: true,
    first: null,
    last: null,
    offset: 0,
    beyond: "hold",
    steps: [],
    matte: null,
    group: "",
    transform: { x: 0, y: 0, scale: 1, rotation: 0, filter: "cubic", keys: {} },
    operator: "over",
    opacity: 1,
    speed: 1,
    reverse: false,
    keys: {},
  };
  return [{ ...document, layers: [...document.layers, layer] }, id];
}

function freeName(document: CompDocument, name: string): string {
  const taken = new Set(document.layers.map((l) => l.name));
  for (let n = 2, text = name; ; n += 1) {
    if (!taken.has(text)) return text;
    text = `${name} ${n}`;
  }
}

export function duplicateLayer(document: CompDocument, id: string): [CompDocument, string] {
  const source = layerOf(document, id);
  if (!source) return [document, id];
  const [added, fresh] = addLayer(document, source.element, source.name);
  const name = layerOf(added, fresh)!.name;
  const at = document.layers.findIndex((l) => l.id === id) + 1;
  return [moveLayer(changeLayer(added, fresh, { ...source, id: fresh, name }), fresh, at), fresh];
}

/** Neighbours of one group, from far to near; a layer of none stands alone. */
export function groupsOf(layers: readonly Layer[]): { group: string; layers: Layer[] }[] {
  const found: { group: string; layers: Layer[] }[] = [];
  for (const layer of layers) {
    const last = found.at(-1);
    if (last && layer.group && last.group === layer.group) last.layers.push(layer);
    else found.push({ group: layer.group, layers: [layer] });
  }
  return found;
}

/** The layer laid together with the one behind it: in that one's group, or in a new one of both. */
export function groupWithBehind(document: CompDocument, id: string): CompDocument {
  const at = document.layers.findIndex((l) => l.id === id);
  const behind = document.layers[at - 1];
  if (!behind) return document;
  const taken = new Set(document.layers.map((l) => l.group));
  let n = 1;
  while (taken.has(`group ${n}`)) n += 1;
  const group = behind.group || `group ${n}`;
  return changeLayer(changeLayer(document, behind.id, { group }), id, { group });
}

/** First and last comp frame a layer is seen on. */
export function lifeOf(document: Pick<CompDocument, "first" | "last">, layer: Layer): [number, number] {
  return [layer.first ?? document.first, layer.last ?? document.last];
}
