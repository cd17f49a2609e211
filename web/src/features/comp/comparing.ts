/** What a comp can be compared with, and what each side of a comparison asks for. */
import type { StateOut } from "../../api/comps";
import type { PresetOut } from "../../api/presets";
import type { CompAsk } from "../../api/pictures";
import { documentOf, layerOf, type Layer } from "../../domain/comp";
import type { Option } from "../../ui/Choose";
import { text } from "./strings";

const t = text.comparing;

/** What of a comp is looked at, as it may differ between the two sides. */
export type Side = Partial<Pick<CompAsk, "document" | "layer" | "extent" | "stage" | "before" | "frame">>;

export interface Comparison {
  how: "off" | "wipe" | "beside" | "difference";
  /** Value of the chosen option. */
  with: string;
  at: number;
  angle: number;
  gain: number;
}

export const FIRST_COMPARISON: Comparison = { how: "off", with: "before", at: 0.5, angle: 0, gain: 1 };

export interface Against {
  option: Option;
  /** What the picture itself shows then, where that is not what the bar says. */
  base: Side;
  other: Side;
}

/** A look that was kept under a name. */
export interface KeptLook {
  frame: number;
  layer: string | null;
  extent: NonNullable<CompAsk["extent"]>;
}

export function choicesOf(
  layer: Layer | undefined,
  titles: Record<string, string>,
  states: StateOut[],
  looks: PresetOut[],
): Against[] {
  const found: Against[] = [];
  const add = (value: string, label: string, group: string, other: Side, base: Side = {}) =>
    found.push({ option: { value, label, group }, other, base });
  if (layer) {
    const id = layer.id;
    add("before", t.beforeSSteps(layer.name), t.theLayer, { layer: id, before: true });
    layer.steps.forEach((step, i) =>
      add(
        `step${i}`,
        t.beforeStep(i + 1, titles[step.kind] ?? step.kind),
        t.theLayer,
        { layer: id, stage: i },
        { layer: id, stage: i + 1 },
      ),
    );
    add("alone", t.alone(layer.name), t.theLayer, { layer: id, extent: "layer" });
    add("upto", t.theLayersUpTo(layer.name), t.theLayer, { layer: id, extent: "upto" });
  }
  for (const s of states) add(`state${s.revision}`, s.name, t.namedStates, stateSide(s, layer));
  for (const k of looks) {
    const { frame, layer: id, extent } = k.content as KeptLook;
    add(`look${k.id}`, k.name, t.keptLooks, { frame, layer: id, extent });
  }
  return found;
}

/** A named state as much of the comp as is looked at now; all of it where the layer was not there yet. */
function stateSide(state: StateOut, layer: Layer | undefined): Side {
  const document = documentOf(state.document);
  return layer && layerOf(document, layer.id) ? { document } : { document, layer: null, extent: "comp" };
}

/** The picture's own request, and the second one's, for a comparison. */
export function sidesOf(
  ask: CompAsk,
  comparison: Comparison,
  against: Against | undefined,
): { first: CompAsk; second: CompAsk | null } {
  if (comparison.how === "off" || !against) return { first: ask, second: null };
  const plain = { before: false, stage: null };
  const first = { ...ask, ...against.base };
  const second = { ...ask, ...plain, ...against.other, passing: false };
  if (comparison.how !== "difference") return { first, second };
  const { document, layer, extent, stage, before, frame } = second;
  return {
    first: {
      ...first,
      against: { document, layer, extent, stage, before, frame: frame ?? null, elements: {} },
      gain: comparison.gain,
    },
    second: null,
  };
}
