/** Mattes of layers and of steps: their parts, what they say in words, and which cards they join. */
import { allLayers, changeLayer, changeStep, layerOf, type CompDocument, type Layer } from "./comp";

export type Matte = NonNullable<Layer["matte"]>;
export type Part = Matte["parts"][number];
export type Kind = Part["kind"];
export type PartOf<K extends Kind> = Extract<Part, { kind: K }>;
export type ChannelPart = PartOf<"channel">;
export type Stroke = PartOf<"paint">["strokes"][number];
/** A change of a part, whichever kind it is of. */
export type PartChange = Partial<{ [K in Kind]: Omit<PartOf<K>, "kind"> }[Kind]>;

/** Whose matte of a layer: its own (null), that which one of its steps acts through, or that of a group's alpha. */
export type OwnerStep = number | "alpha" | null;

export interface Owner {
  layer: string;
  step: OwnerStep;
}

export const EMPTY: Matte = {
  on: true,
  parts: [],
  edge: "made",
  band: 3,
  trust: 0.001,
  specks: 0,
  holes: 0,
  steady: 0,
  grow: 0,
  soften: 0,
  inverted: false,
  edge_colour: "plain",
  inside: 0.95,
  first: null,
  last: null,
  keys: {},
};

const ANY = { on: true, combine: "add", inverted: false, first: null, last: null, keys: {} } as const;
const OF_PICTURE = { read: "steps", fit: "stretch" } as const;

export const newChannel = (source: string, change: Partial<ChannelPart> = {}): ChannelPart => ({
  ...ANY,
  ...OF_PICTURE,
  kind: "channel",
  source,
  channel: "alpha",
  weights: "bt709",
  space: "codes",
  shape: "ramp",
  low: 0,
  high: 1,
  soft: 0.1,
  passes: 1,
  ...change,
});

/** What is said of an element that a matte may take. */
interface Taken {
  has_alpha: boolean;
  facts: { alpha_use: string } | null;
}

/**
 * The channel that a matte most likely wants of a source: its alpha where that is used, else its luma; of
 * another layer as it lies in the comp, whatever its size and place.
 */
export function proposedChannel(source: string, element: Taken | undefined): ChannelPart {
  const constant =
    element && (!element.has_alpha || ["opaque", "empty"].includes(element.facts?.alpha_use ?? ""));
  return newChannel(source, {
    channel: source === "" || constant ? "luma" : "alpha",
    read: source.startsWith("layer:") ? "placed" : "steps",
  });
}

export const newKey = (source: string, change: Partial<PartOf<"key">> = {}): PartOf<"key"> => ({
  ...ANY,
  ...OF_PICTURE,
  // before its steps: a despill step would take the screen out of the key
  read: "source",
  kind: "key",
  source,
  by: "screen",
  screen_colour: [0.05, 0.35, 0.08],
  // hardly any card is lit evenly
  evenness: "uneven",
  plate: "",
  // skin, hair and wood are warm: against the greater of the others they would keep some of the card
  balance: 0.25,
  black: 0,
  white: 1,
  ...change,
});

export const newShape = (change: Partial<PartOf<"shape">> = {}): PartOf<"shape"> => ({
  ...ANY,
  kind: "shape",
  shape: "ellipse",
  x: 0,
  y: 0,
  width: 400,
  height: 400,
  rotation: 0,
  points: [],
  soft_inside: 0,
  soft_outside: 0,
  ...change,
});

export const newPaint = (): PartOf<"paint"> => ({ ...ANY, kind: "paint", strokes: [] });

export const newObjects = (source: string, layer: string, names: string[]): PartOf<"object"> => ({
  ...ANY,
  ...OF_PICTURE,
  kind: "object",
  source,
  ranks: layer,
  objects: names,
});

export function matteAt(layer: Layer, step: OwnerStep): Matte | null | undefined {
  if (step === null) return layer.matte;
  if (step === "alpha") return layer.kind === "group" ? layer.alpha.matte : null;
  // a step that is not known here may have nothing there
  return (layer.steps[step]?.through as { matte?: Matte } | null | undefined)?.matte;
}

export function matteOf(document: CompDocument, owner: Owner): Matte {
  const layer = layerOf(document, owner.layer);
  return (layer && matteAt(layer, owner.step)) ?? EMPTY;
}

export function withMatte(
  document: CompDocument,
  owner: Owner,
  change: (matte: Matte) => Matte,
): CompDocument {
  const next = change(matteOf(document, owner));
  if (owner.step === null) return changeLayer(document, owner.layer, { matte: next });
  const layer = layerOf(document, owner.layer);
  if (owner.step === "alpha")
    return layer?.kind === "group"
      ? changeLayer(document, layer.id, { alpha: { ...layer.alpha, by: "matte", matte: next } })
      : document;
  const step = layer?.steps[owner.step];
  if (!step) return document;
  return changeStep(document, owner.layer, owner.step, { through: { ...step.through, matte: next } });
}

/** What a part becomes with another channel: a card's difference is black where the card is, so it is inverted. */
export function channelChange(part: ChannelPart, channel: string): Partial<ChannelPart> {
  const key = channel.endsWith("-difference");
  const was = part.channel.endsWith("-difference");
  if (key && !was) return { channel, inverted: true, low: 0.05, high: 0.4 };
  return was && !key ? { channel, inverted: false, low: 0, high: 1 } : { channel };
}

/** What a part takes: ``layer:`` and an id, an element's key, or nothing for the layer itself. */
export function sourcesOf(part: Part): string[] {
  if (!("source" in part)) return [];
  const plate = part.kind === "key" && (part.by === "plate" || part.evenness === "plate") ? part.plate : "";
  return plate ? [part.source, plate] : [part.source];
}

export const withPart = (matte: Matte, index: number, change: PartChange): Matte => ({
  ...matte,
  // a change names fields of the part's own kind
  parts: matte.parts.map((p, i) => (i === index ? ({ ...p, ...change } as Part) : p)),
});

export const addPart = (matte: Matte, part: Part): Matte => ({ ...matte, parts: [...matte.parts, part] });

export const withoutPart = (matte: Matte, index: number): Matte => ({
  ...matte,
  parts: matte.parts.filter((_, i) => i !== index),
});

/** Whether a layer takes another one, by itself or by what that one takes. */
export function takes(document: CompDocument, from: string, other: string): boolean {
  const seen = new Set<string>();
  const look = (id: string): boolean => {
    if (id === other) return true;
    if (seen.has(id)) return false;
    seen.add(id);
    const layer = layerOf(document, id);
    return layer ? [...namedBy(layer), ...heldBy(layer)].some(look) : false;
  };
  return look(from);
}

const heldBy = (layer: Layer): string[] => (layer.kind === "group" ? layer.layers.map((l) => l.id) : []);

/** Ids of the layers that a layer's steps and mattes name. */
function namedBy(layer: Layer): string[] {
  const seconds = layer.steps.map((s) => String(Reflect.get(s, "second") ?? ""));
  const parts = [...mattesOf(layer)].flatMap((m) => m.parts.flatMap(sourcesOf));
  return [...seconds, ...parts].filter((s) => s.startsWith("layer:")).map((s) => s.slice(6));
}

function mattesOf(layer: Layer): Matte[] {
  // a step that is not known here may have nothing there
  const through = layer.steps.map((s) => s.through as (typeof s)["through"] | null);
  const steps = through.flatMap((t) => (t?.by === "matte" ? [t.matte] : []));
  const alpha = layer.kind === "group" && layer.alpha.matte ? [layer.alpha.matte] : [];
  return [...(layer.matte ? [layer.matte] : []), ...steps, ...alpha];
}

/** The frames that a matte or a part of it is limited to; nothing where it is not. */
export function framesInWords({ first, last }: { first: number | null; last: number | null }): string {
  if (first === null && last === null) return "";
  if (first === null) return `, to frame ${last}`;
  return last === null ? `, from frame ${first}` : `, frames ${first} to ${last}`;
}

/** What a part is, in few words; ``name``: how its source is called. */
export function partInWords(part: Part, nameOf: (source: string) => string): string {
  const turned = `${part.inverted ? ", inverted" : ""}${framesInWords(part)}`;
  if (part.kind === "shape") return `${SHAPES[part.shape]}${turned}`;
  if (part.kind === "paint")
    return `paint, ${part.strokes.length} ${part.strokes.length === 1 ? "stroke" : "strokes"}${turned}`;
  const name = nameOf(part.source);
  if (part.kind === "object") {
    const [first, ...more] = part.objects;
    const names = first ? `${first}${more.length ? ` and ${more.length} more` : ""}` : "no object";
    return `${names} of ${name}${turned}`;
  }
  if (part.kind === "key")
    return `${part.by === "screen" ? `${cardOf(part.screen_colour)}-screen key` : "difference key"} of ${name}${turned}`;
  return `${part.channel} of ${name}${turned}`;
}

const SHAPES = { ellipse: "ellipse", rectangle: "rectangle", free: "free form" } as const;

export const cardOf = (colour: readonly number[]) =>
  (colour[1] ?? 0) >= (colour[2] ?? 0) ? "green" : "blue";

/** As a short list that can be read: "mask.1 of boards, subtract mask.7 of boards". */
export function matteInWords(matte: Matte | null, nameOf: (source: string) => string): string {
  if (!matte || (matte.parts.length === 0 && !matte.inverted)) return "none: all of it is kept";
  const parts = matte.parts.filter((p) => p.on);
  const words = parts.map((p, i) => {
    const text = partInWords(p, nameOf);
    if (i > 0) return p.kind === "paint" ? text : `${p.combine} ${text}`;
    return p.combine === "subtract" ? `all but ${text}` : text;
  });
  const text = words.join(", ") || "all";
  const turned = matte.inverted ? `all but ${text}` : text;
  return `${matte.on ? "" : "off: "}${turned}${framesInWords(matte)}`;
}

export interface Thread {
  from: string;
  to: string;
  words: string;
}

/** One thread for each pair of cards that a matte joins. */
export function threadsOf(document: CompDocument): Thread[] {
  const found: Thread[] = [];
  for (const layer of allLayers(document)) {
    for (const matte of mattesOf(layer)) {
      for (const part of matte.on ? matte.parts : []) {
        const source = sourcesOf(part)[0] ?? "";
        const from = source.replace("layer:", "");
        if (!part.on || !source.startsWith("layer:") || !layerOf(document, from)) continue;
        const words = threadWords(part);
        const known = found.find((t) => t.from === from && t.to === layer.id);
        if (known) known.words = `${known.words}; ${words}`;
        else found.push({ from, to: layer.id, words });
      }
    }
  }
  return found;
}

function threadWords(part: Part): string {
  const turned = part.inverted ? ", inverted" : "";
  if (part.kind === "channel") return `${part.channel}${turned}`;
  if (part.kind === "object") return `${part.objects[0] ?? "no object"}${turned}`;
  return `key${turned}`;
}
