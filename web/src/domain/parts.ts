/** The parts of a layer that hold numbers: the layer itself, its place, its steps, and where these act. */
import { changeLayer, layerOf, type CompDocument, type Layer } from "./comp";
import { matteAt, withMatte, withPart, type Matte, type OwnerStep } from "./mattes";
import { valueAt, withKey, withoutKey, type Curve } from "./curve";

export type PartPath =
  | { of: "layer" }
  | { of: "transform" }
  | { of: "card" }
  | { of: "made" }
  | { of: "step"; index: number }
  | { of: "through"; index: number }
  /** The matte itself, or one of its parts. */
  | { of: "matte"; step: OwnerStep; part: number | null };

/** A part as its numbers are asked for: by name, of a colour or a point by name and place. */
export interface Part {
  keys: Record<string, Curve>;
  [name: string]: unknown;
}

export function partOf(layer: Layer, path: PartPath): Part | undefined {
  if (path.of === "layer") return layer;
  if (path.of === "transform") return layer.transform;
  if (path.of === "card") return layer.card ?? undefined;
  if (path.of === "made") return layer.kind === "made" ? layer.made : undefined;
  if (path.of === "matte") {
    const matte = matteAt(layer, path.step);
    return (path.part === null ? matte : matte?.parts[path.part]) ?? undefined;
  }
  const step = layer.steps[path.index];
  return path.of === "step" ? step : step?.through;
}

export function changePart(document: CompDocument, id: string, path: PartPath, change: object): CompDocument {
  const layer = layerOf(document, id);
  if (!layer) return document;
  if (path.of === "layer") return changeLayer(document, id, change);
  if (path.of === "transform")
    return changeLayer(document, id, { transform: { ...layer.transform, ...change } });
  if (path.of === "card")
    return layer.card ? changeLayer(document, id, { card: { ...layer.card, ...change } }) : document;
  if (path.of === "made")
    return layer.kind === "made"
      ? changeLayer(document, id, { made: { ...layer.made, ...change } })
      : document;
  if (path.of === "matte") {
    const { part } = path;
    return withMatte(document, { layer: id, step: path.step }, (matte) =>
      part === null ? { ...matte, ...change } : withPart(matte, part, change),
    );
  }
  const steps = layer.steps.map((step, i) => {
    if (i !== path.index) return step;
    return path.of === "step" ? { ...step, ...change } : { ...step, through: { ...step.through, ...change } };
  });
  return changeLayer(document, id, { steps: steps });
}

/** The number as it stands, without its curve. */
export function restingNumber(part: Part, name: string): number {
  const [field = "", place] = name.split(".");
  const value = part[field];
  return Number(place === undefined ? value : (value as unknown[])[Number(place)]);
}

export function numberAt(part: Part, name: string, frame: number): number {
  const curve = part.keys[name];
  return curve ? valueAt(curve, frame) : restingNumber(part, name);
}

/** Set a number: a key at the frame where it has a curve, else the number itself. */
export function withNumber(part: Part, name: string, value: number, frame: number): Partial<Part> {
  const curve = part.keys[name];
  if (curve) return { keys: { ...part.keys, [name]: withKey(curve, frame, value) } };
  const [field = "", place] = name.split(".");
  if (place === undefined) return { [field]: value };
  const whole = [...(part[field] as number[])];
  whole[Number(place)] = value;
  return { [field]: whole };
}

/** A curve set or taken away; what it was worth at the frame stays as the number. */
export function withCurve(part: Part, name: string, curve: Curve | undefined, frame: number): Partial<Part> {
  if (curve) return { keys: { ...part.keys, [name]: curve } };
  const keys = Object.fromEntries(Object.entries(part.keys).filter(([other]) => other !== name));
  return { ...withNumber({ ...part, keys }, name, numberAt(part, name, frame), frame), keys };
}

/** A key set at the frame, or taken off where there is one. */
export function toggledKey(part: Part, name: string, frame: number): Partial<Part> {
  const curve = part.keys[name];
  const there = curve?.keys.some((k) => k.frame === frame);
  const next = curve && there ? withoutKey(curve, frame) : withKey(curve, frame, numberAt(part, name, frame));
  return withCurve(part, name, next, frame);
}

export interface Animated {
  path: PartPath;
  name: string;
  curve: Curve;
}

function mattePaths(layer: Layer, step: OwnerStep): PartPath[] {
  const matte = partOf(layer, { of: "matte", step, part: null }) as Matte | undefined;
  const parts = (matte?.parts ?? []).map((_, part): PartPath => ({ of: "matte", step, part }));
  return matte ? [{ of: "matte", step, part: null }, ...parts] : [];
}

/** Everything of a layer that has a curve. */
export function animatedOf(layer: Layer): Animated[] {
  const paths: PartPath[] = [
    { of: "transform" },
    { of: "card" },
    { of: "made" },
    ...layer.steps.flatMap((_, index): PartPath[] => [
      { of: "step", index },
      { of: "through", index },
      ...mattePaths(layer, index),
    ]),
    ...mattePaths(layer, null),
    ...mattePaths(layer, "alpha"),
    { of: "layer" },
  ];
  return paths.flatMap((path) =>
    Object.entries(partOf(layer, path)?.keys ?? {}).map(([name, curve]) => ({ path, name, curve })),
  );
}
