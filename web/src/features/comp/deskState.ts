/** What is looked at on the comp desk; the address bar holds it, so that a link shows the same. */
import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { Problem } from "../../api/client";
import type { Look } from "../../api/pictures";
import type { CompDocument, Step } from "../../domain/comp";
import type { Curve } from "../../domain/curve";
import type { View } from "../../domain/geometry";
import { remember, remembered } from "../../domain/remember";
import type { Loop } from "../../domain/time";
import type { Owner } from "../../domain/mattes";
import type { PartPath } from "../../domain/parts";
import type { Mark } from "../../ui/marks";
import { FIRST_COMPARISON, type Comparison } from "./comparing";
import { FIRST_LOOK } from "../../parts/LookBar";
import { lookFromParams, lookToParams } from "../../parts/lookAddress";

export type Instrument = "values" | "edge" | "histogram" | "waveform" | "matte";
export type Extent = "comp" | "upto" | "layer";

/** A box in pixels of the comp. */
export type Box = [number, number, number, number];

/** What is drawn on the picture while a matte is made, or a layer is matched, stood in a scene or focused. */
export type Tool =
  | { kind: "regions"; owner: Owner; what: "stay" | "go" }
  | { kind: "match"; owner: Owner; what: "own" | "plate" }
  | { kind: "stand"; owner: Owner }
  | { kind: "place"; owner: Owner }
  | { kind: "distance"; owner: Owner; step: number; field: string }
  | { kind: "screen"; owner: Owner; part: number }
  | { kind: "paint"; owner: Owner; part: number }
  | { kind: "pick"; owner: Owner; path: PartPath; field: string; what: string }
  | { kind: "shape"; owner: Owner; path: PartPath }
  | { kind: "points"; owner: Owner; path: PartPath };

export interface Brush {
  size: number;
  soft: number;
  value: number;
  erase: boolean;
  /** The frames of a new stroke: the one looked at, all, or from one to another. */
  span: "frame" | "all" | [number, number];
}

/** Channels side by side for a part of a matte, or for a new one where there is none. */
export interface BoardAsked {
  owner: Owner;
  part: number | null;
  source: string;
}

/** A layer that is matched to its plate, and the pieces of both that are marked. */
export interface Matching {
  layer: string;
  plate: string;
  own: Box | null;
  there: Box | null;
}

export type RecipeSectionName =
  "reading" | "made" | "group" | "steps" | "matte" | "transform" | "scene" | "blend" | "repeat" | "timing";

export interface DeskState {
  frame: number;
  layer: string | null;
  /** Layers that are chosen besides. */
  also: string[];
  /** Layers and groups that are looked at without the others; none: all are. */
  alone: string[];
  /** Groups that show their members in the lineup. */
  opened: string[];
  /** The section of the recipe that is open: another layer's opens where this one was worked in. */
  section: RecipeSectionName | null;
  look: Look;
  extent: Extent;
  /** An extra channel that is looked at, while the layer alone is: of which element, and which. */
  extra_channel: { element: string; name: string } | null;
  before: boolean;
  view: View | null;
  playing: boolean;
  loop: Loop;
  /** Frames that are played, where not all. */
  range: [number, number] | null;
  /** Code values shown as 0..255 instead of 0..1. */
  eightBit: boolean;
  /** Steps that were copied, to be put on another layer. */
  copied: Step[];
  copiedCurve: Curve | null;
  compare: Comparison;
  instrument: Instrument;
  drawing: Mark["kind"] | null;
  mark: Mark | null;
  /** Whether the curves stand under the picture. */
  curves: boolean;
  /** Whether the frames of what is shown stand under the picture. */
  frames: boolean;
  /** Whether the list of the comp is open. */
  list: boolean;
  /** Whether the comp's name, size, rate and frames are asked for. */
  settings: boolean;
  tool: Tool | null;
  brush: Brush;
  board: BoardAsked | null;
  /** What is marked for the board. */
  regions: { stay: Box[]; go: Box[] };
  matching: Matching | null;
  /** Whether the next click on the picture pins a note. */
  noting: boolean;
  /** The note whose words are shown on the picture. */
  note: string | null;
  /** Why copied layers could not be pasted. */
  notPasted: Problem | null;
  /** Whether the lineup's cards are small; null: where they are many. */
  smallCards: boolean | null;
  /** A matte that is looked at alone, over its layer. */
  matteShown: { owner: Owner; part: number | null } | null;
  set: (part: Partial<Omit<DeskState, "set">>) => void;
}

export const useDesk = create<DeskState>((set) => ({
  frame: 1,
  layer: null,
  also: [],
  alone: [],
  opened: [],
  section: "steps",
  look: FIRST_LOOK,
  extent: "comp",
  extra_channel: null,
  before: false,
  view: null,
  playing: false,
  loop: "loop",
  range: null,
  eightBit: remembered("eightBit") === "yes",
  copied: [],
  copiedCurve: null,
  curves: false,
  frames: false,
  list: false,
  settings: false,
  compare: FIRST_COMPARISON,
  instrument: "values",
  drawing: null,
  mark: null,
  tool: null,
  brush: { size: 40, soft: 0.3, value: 1, erase: false, span: "frame" },
  board: null,
  regions: { stay: [], go: [] },
  matching: null,
  matteShown: null,
  notPasted: null,
  noting: false,
  note: null,
  smallCards: { yes: true, no: false }[remembered("smallCards") ?? ""] ?? null,
  set: (part) => set(part),
}));

/** Some fields of the desk: what shows them is rendered again when one of these changes, and not else. */
export function useDeskFields<K extends keyof DeskState>(...fields: K[]): Pick<DeskState, K> {
  return useDesk(
    useShallow(
      (desk) => Object.fromEntries(fields.map((field) => [field, desk[field]])) as Pick<DeskState, K>,
    ),
  );
}

useDesk.subscribe((now, before) => {
  if (now.eightBit !== before.eightBit) remember("eightBit", now.eightBit ? "yes" : "no");
  if (now.smallCards !== before.smallCards && now.smallCards !== null)
    remember("smallCards", now.smallCards ? "yes" : "no");
});

/** The frames that are played. */
export function rangeOfDesk(
  range: DeskState["range"],
  { first, last }: Pick<CompDocument, "first" | "last">,
): [number, number] {
  if (!range) return [first, last];
  const [a, b] = [Math.max(first, range[0]), Math.min(last, range[1])];
  return a <= b ? [a, b] : [first, last];
}

/** The part of the state that an address holds. */
export function toParams(state: DeskState): URLSearchParams {
  const params = new URLSearchParams({ frame: String(state.frame) });
  if (state.layer) params.set("layer", state.layer);
  for (const [name, value] of Object.entries(lookToParams(state.look))) params.set(name, value);
  if (state.extent !== "comp") params.set("extent", state.extent);
  if (state.before) params.set("before", "1");
  if (state.view)
    params.set("view", [state.view.zoom, state.view.x, state.view.y].map((v) => +v.toFixed(3)).join(","));
  return params;
}

export function fromParams(params: URLSearchParams, first: number): Partial<DeskState> {
  const [zoom, x, y] = (params.get("view") ?? "").split(",").map(Number);
  const known = zoom !== undefined && zoom > 0 && x !== undefined && y !== undefined;
  return {
    frame: Number(params.get("frame")) || first,
    layer: params.get("layer"),
    look: lookFromParams(params),
    extent: (["comp", "upto", "layer"] as const).find((e) => e === params.get("extent")) ?? "comp",
    before: params.get("before") === "1",
    view: known ? { zoom, x, y } : null,
    playing: false,
  };
}
