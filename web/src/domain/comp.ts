/** The comp document and its edits: pure functions from document to document. */
import type { Full } from "../api/full";
import type { components } from "../api/schema";
import { slotsAfter, slotsOfLayers } from "./list";
import { changeIn, find, insertIn, parentOf, removeFrom, walk } from "./tree";

type Written = Full<Omit<components["schemas"]["Comp"], "elements" | "comps" | "cameras" | "layers">>;
type WrittenLayer = Full<components["schemas"]["Layer"]>;
type WrittenMade = Full<components["schemas"]["MadeLayer"]>;
type WrittenGroup = Full<Omit<components["schemas"]["Group"], "layers">>;
type Known<T> = T extends { kind: infer K } ? (string extends K ? never : T) : never;
/** A step; one that is not known here has a kind that the table of steps does not list. */
export type Step = Known<WrittenLayer["steps"][number]>;
/** A layer that shows an element. */
export type ElementLayer = Omit<WrittenLayer, "steps"> & { steps: Step[] };
/** A layer whose picture is made here. */
export type MadeLayer = Omit<WrittenMade, "steps"> & { steps: Step[] };
export type Made = MadeLayer["made"];
/** A layer made of others. */
export type Group = Omit<WrittenGroup, "steps"> & { steps: Step[]; layers: Layer[] };
export type Layer = ElementLayer | MadeLayer | Group;
export type CompDocument = Written & { layers: Layer[] };
export type Transform = Layer["transform"];
export type Card = NonNullable<Layer["card"]>;
export type Repeat = NonNullable<Layer["repeat"]>;
export type Reading = Full<components["schemas"]["Reading"]>;
export type Encoding = string;
/** Fields that layers of every kind have, and those of one kind. */
export type LayerChange =
  Partial<Omit<ElementLayer, "kind">> | Partial<Omit<MadeLayer, "kind">> | Partial<Omit<Group, "kind">>;

/** A document of the server as the page uses it: complete, and without what it adds. */
export function documentOf(data: components["schemas"]["Comp"]): CompDocument {
  const copy = { ...data };
  delete copy.elements;
  delete copy.comps;
  delete copy.cameras;
  return copy as CompDocument;
}

/** Whether a layer shows what lies beneath it: its steps change all of that. */
export const ofBeneath = (layer: Layer): boolean => layer.kind === "made" && layer.made.kind === "beneath";

export function newDocument(
  name: string,
  size: { width: number; height: number },
  rate: string,
  last: number,
  working = "linear",
): CompDocument {
  const empty = { camera: "", layers: [], slots: [], rows: [], notes: [] };
  return { neatveil: 3, name, ...size, rate, first: 1, last, working, ...empty };
}

/** Every layer of the tree, groups before their members. */
export const allLayers = (document: CompDocument): Layer[] => walk(document.layers);

export function layerOf(document: CompDocument, id: string | null): Layer | undefined {
  return id === null ? undefined : find(document.layers, id);
}

/** The key of the element that a layer shows; groups and what is made here show none. */
export const elementOf = (layer: Layer): string | undefined =>
  layer.kind === "element" ? layer.element : undefined;

/** Keys of the elements that a layer shows: of a group those of its members. */
export const elementsIn = (layer: Layer): string[] => [
  ...new Set(walk([layer]).flatMap((l) => elementOf(l) ?? [])),
];

/**
 * Keys of the elements that a source shows: ``layer:`` and an id, an element's key, or nothing for the layer
 * itself.
 */
export function elementsOfSource(
  document: Pick<CompDocument, "layers">,
  source: string,
  own: Layer,
): string[] {
  if (!source) return elementsIn(own);
  if (!source.startsWith("layer:")) return [source];
  const layer = find(document.layers, source.slice(6));
  return layer ? elementsIn(layer) : [];
}

export function changeLayer(document: CompDocument, id: string, change: LayerChange): CompDocument {
  return { ...document, layers: changeIn(document.layers, id, (l) => ({ ...l, ...change })) };
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
  if (!layer) return document;
  const steps = change(layer.steps);
  const slots = slotsAfter(document.slots, id, layer.steps, steps);
  return { ...changeLayer(document, id, { steps }), slots };
}

export function changeStep(document: CompDocument, id: string, index: number, change: object): CompDocument {
  const layer = layerOf(document, id);
  if (!layer) return document;
  const steps = layer.steps.map((s, i) => (i === index ? { ...s, ...change } : s));
  return changeLayer(document, id, { steps });
}

/** The layers that lie beside one, in the same group or in the comp, and its place among them. */
export function besideOf(document: CompDocument, id: string): { layers: Layer[]; index: number } {
  const layers = parentOf(document.layers, id)?.layers ?? document.layers;
  return { layers, index: layers.findIndex((l) => l.id === id) };
}

/**
 * Move a layer into a group, or out of all of them (null), to a place among what lies there without it.
 * A group does not go into itself.
 */
export function moveInto(document: CompDocument, id: string, group: string | null, to: number): CompDocument {
  const layer = layerOf(document, id);
  if (!layer || id === group) return document;
  if (layer.kind === "group" && group !== null && find(layer.layers, group)) return document;
  const without = removeFrom(document.layers, id);
  return { ...document, layers: insertIn(without, group, to, layer) };
}

export function removeLayer(document: CompDocument, id: string): CompDocument {
  const layers = removeFrom(document.layers, id);
  return { ...document, layers, slots: slotsOfLayers(document.slots, walk(layers)) };
}

/** What a new layer begins with. */
function resting(document: CompDocument, base: string, name: string) {
  return {
    id: freeId(document, base),
    name,
    shown: true,
    locked: false,
    first: null,
    last: null,
    offset: 0,
    beyond: "hold" as const,
    steps: [],
    matte: null,
    card: null,
    repeat: null,
    transform: { x: 0, y: 0, scale: 1, rotation: 0, filter: "cubic" as const, keys: {} },
    operator: "over" as const,
    opacity: 1,
    speed: 1,
    reverse: false,
    own_frame: null,
    between: "begun" as const,
    keys: {},
  };
}

/** A new layer of an element, nearest to the lens. */
export function addLayer(document: CompDocument, element: string, name: string): [CompDocument, string] {
  const row = resting(document, "layer", freeName(document, name));
  const layer: ElementLayer = { ...row, kind: "element", element };
  return [{ ...document, layers: [...document.layers, layer] }, layer.id];
}

/** A new layer of something made here, nearest to the lens. */
export function addMade(document: CompDocument, made: Made, name: string): [CompDocument, string] {
  const row = resting(document, "layer", freeName(document, name));
  const layer: MadeLayer = { ...row, kind: "made", made };
  return [{ ...document, layers: [...document.layers, layer] }, layer.id];
}

export function freeId(document: CompDocument, base: string, also: ReadonlySet<string> = new Set()): string {
  const taken = new Set(allLayers(document).map((l) => l.id));
  let n = taken.size + 1;
  while (taken.has(`${base}${n}`) || also.has(`${base}${n}`)) n += 1;
  return `${base}${n}`;
}

export function freeName(document: CompDocument, name: string, first = name): string {
  const taken = new Set(allLayers(document).map((l) => l.name));
  for (let n = 2, text = first; ; n += 1) {
    if (!taken.has(text)) return text;
    text = `${name} ${n}`;
  }
}

/** A layer with other ids, also where it names its own members. */
export function renumbered(layer: Layer, ids: ReadonlyMap<string, string>): Layer {
  const text = JSON.stringify(layer, (key, value: unknown) => {
    if (key === "alternatives") return (value as string[]).map((id) => ids.get(id) ?? id);
    if (typeof value !== "string") return value;
    if (key === "id" || key === "member") return ids.get(value) ?? value;
    const named = value.startsWith("layer:") ? ids.get(value.slice(6)) : undefined;
    return named ? `layer:${named}` : value;
  });
  return JSON.parse(text) as Layer;
}

/** The chosen layers from far to near; what lies in a chosen group goes with the group. */
export function chosenLayers(document: CompDocument, ids: readonly string[]): Layer[] {
  const chosen = allLayers(document).filter((l) => ids.includes(l.id));
  const inside = new Set(chosen.flatMap((l) => (l.kind === "group" ? walk(l.layers) : [])).map((l) => l.id));
  return chosen.filter((l) => !inside.has(l.id));
}

/** Layers put into a new group, where the nearest of them lies; its id. */
export function groupLayers(document: CompDocument, ids: readonly string[]): [CompDocument, string | null] {
  const members = chosenLayers(document, ids);
  const nearest = members.at(-1);
  if (!nearest) return [document, null];
  const row = resting(document, "group", freeName(document, "group", "group 1"));
  const alpha = { by: "members" as const, member: "", matte: null };
  const group: Group = { ...row, kind: "group", layers: members, alpha, alternatives: [] };
  const parent = parentOf(document.layers, nearest.id)?.id ?? null;
  const { index } = besideOf(document, nearest.id);
  let layers = insertIn<Layer>(document.layers, parent, index + 1, { ...group, layers: [] });
  for (const member of members) layers = removeFrom(layers, member.id);
  return [{ ...document, layers: changeIn(layers, group.id, () => group) }, group.id];
}

/** A group's members put where it lay; what the group itself did goes. */
export function ungroup(document: CompDocument, id: string): CompDocument {
  const group = layerOf(document, id);
  if (group?.kind !== "group") return document;
  const parent = parentOf(document.layers, id)?.id ?? null;
  const { index } = besideOf(document, id);
  const without = removeFrom(document.layers, id);
  const layers = group.layers.reduce((now, l, i) => insertIn(now, parent, index + i, l), without);
  return { ...document, layers };
}

/** The members of a group that are ways to the same picture; nothing where there are not two of them left. */
export function alternativesOf(group: Group): Layer[] {
  const there = group.layers.filter((l) => group.alternatives.includes(l.id));
  return there.length > 1 ? there : [];
}

/** Of the ways to one picture this one shown. */
export function showAlternative(document: CompDocument, group: Group, id: string): CompDocument {
  return alternativesOf(group).reduce((d, l) => changeLayer(d, l.id, { shown: l.id === id }), document);
}

/** Whether a group does anything of its own that ungrouping would lose. */
export function groupActs(group: Group): boolean {
  const { transform: place } = group;
  const moves = place.x !== 0 || place.y !== 0 || place.scale !== 1 || place.rotation !== 0;
  const keyed = Object.keys(place.keys).length + Object.keys(group.keys).length > 0;
  const timed =
    group.offset !== 0 ||
    group.speed !== 1 ||
    group.reverse ||
    group.own_frame !== null ||
    group.first !== null;
  const merged = group.operator !== "over" || group.opacity !== 1 || group.alpha.by !== "members";
  return (
    group.steps.length > 0 || group.card !== null || group.matte !== null || moves || keyed || timed || merged
  );
}

/** A layer put in front of the group that holds it. */
export function leaveGroup(document: CompDocument, id: string): CompDocument {
  const parent = parentOf(document.layers, id);
  if (!parent) return document;
  const { index } = besideOf(document, parent.id);
  return moveInto(document, id, parentOf(document.layers, parent.id)?.id ?? null, index + 1);
}

/** First and last comp frame a layer is seen on. */
export function lifeOf(document: Pick<CompDocument, "first" | "last">, layer: Layer): [number, number] {
  return [layer.first ?? document.first, layer.last ?? document.last];
}
