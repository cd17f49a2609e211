/** Mattes of layers and of steps: their parts, what they say in words, and which cards they join. */
import { changeLayer, changeStep, layerOf, type CompDocument, type Layer } from "./comp";

export type Matte = NonNullable<Layer["matte"]>;
export type Part = Matte["parts"][number];

/** Whose matte: a layer's own, or that which one of its steps acts through. */
export interface Owner {
  layer: string;
  step: number | null;
}

export const EMPTY: Matte = {
  on: true,
  parts: [],
  specks: 0,
  holes: 0,
  grow: 0,
  soften: 0,
  inverted: false,
  keys: {},
};

export function newPart(source: string, change: Partial<Part> = {}): Part {
  return {
    on: true,
    how: "add",
    source,
    read: "steps",
    channel: "alpha",
    weights: "bt709",
    space: "codes",
    shape: "ramp",
    low: 0,
    high: 1,
    soft: 0.1,
    inverted: false,
    fit: "stretch",
    keys: {},
    ...change,
  };
}

export function matteOf(document: CompDocument, owner: Owner): Matte {
  const layer = layerOf(document, owner.layer);
  const matte = owner.step === null ? layer?.matte : layer?.steps[owner.step]?.through.matte;
  return matte ?? EMPTY;
}

export function withMatte(
  document: CompDocument,
  owner: Owner,
  change: (matte: Matte) => Matte,
): CompDocument {
  const next = change(matteOf(document, owner));
  if (owner.step === null) return changeLayer(document, owner.layer, { matte: next });
  const step = layerOf(document, owner.layer)?.steps[owner.step];
  if (!step) return document;
  return changeStep(document, owner.layer, owner.step, { through: { ...step.through, matte: next } });
}

/** What a part becomes with another channel: a card's difference is black where the card is, so it is inverted. */
export function channelChange(part: Part, channel: string): Partial<Part> {
  const key = channel.endsWith("-difference");
  const was = part.channel.endsWith("-difference");
  if (key && !was) return { channel, inverted: true, low: 0.05, high: 0.4 };
  return was && !key ? { channel, inverted: false, low: 0, high: 1 } : { channel };
}

export const withPart = (matte: Matte, index: number, change: Partial<Part>): Matte => ({
  ...matte,
  parts: matte.parts.map((p, i) => (i === index ? { ...p, ...change } : p)),
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
    return layer ? namedBy(layer).some(look) : false;
  };
  return look(from);
}

/** Ids of the layers that a layer's steps and mattes name. */
function namedBy(layer: Layer): string[] {
  const seconds = layer.steps.map((s) => String(Reflect.get(s, "second") ?? ""));
  const parts = [...mattesOf(layer)].flatMap((m) => m.parts.map((p) => p.source));
  return [...seconds, ...parts].filter((s) => s.startsWith("layer:")).map((s) => s.slice(6));
}

function mattesOf(layer: Layer): Matte[] {
  // a step that is not known here may have nothing there
  const through = layer.steps.map((s) => s.through as (typeof s)["through"] | null);
  const steps = through.flatMap((t) => (t?.by === "matte" ? [t.matte] : []));
  return [...(layer.matte ? [layer.matte] : []), ...steps];
}

const SIGNS: Record<Part["how"], string> = {
  add: "plus",
  subtract: "minus",
  intersect: "only in",
  exclude: "either, not both:",
};

export function partInWords(part: Part, name: string): string {
  return `${part.channel} of ${name}${part.inverted ? ", inverted" : ""}`;
}

/** As a short list that can be read: "mask.1 of boards minus mask.7 of boards". */
export function matteInWords(matte: Matte | null, nameOf: (source: string) => string): string {
  if (!matte || (matte.parts.length === 0 && !matte.inverted)) return "none: all of it is kept";
  const parts = matte.parts.filter((p) => p.on);
  const words = parts.map((p, i) => {
    const text = partInWords(p, nameOf(p.source));
    if (i > 0) return `${SIGNS[p.how]} ${text}`;
    return p.how === "subtract" ? `all minus ${text}` : text;
  });
  const text = words.join(" ") || "all";
  return `${matte.on ? "" : "off: "}${matte.inverted ? `all but ${text}` : text}`;
}

export interface Thread {
  from: string;
  to: string;
  words: string;
}

/** One thread for each pair of cards that a matte joins. */
export function threadsOf(document: CompDocument): Thread[] {
  const found: Thread[] = [];
  for (const layer of document.layers) {
    for (const matte of mattesOf(layer)) {
      for (const part of matte.on ? matte.parts : []) {
        const from = part.source.replace("layer:", "");
        if (!part.on || !part.source.startsWith("layer:") || !layerOf(document, from)) continue;
        const words = `${part.channel}${part.inverted ? ", inverted" : ""}`;
        const known = found.find((t) => t.from === from && t.to === layer.id);
        if (known) known.words = `${known.words}; ${words}`;
        else found.push({ from, to: layer.id, words });
      }
    }
  }
  return found;
}
