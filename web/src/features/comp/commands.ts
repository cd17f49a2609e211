/** Everything that can be done by its name, and by a key where it has one: one table for both. */
import { aloneIn } from "../../domain/alone";
import { duplicateLayers, keepCopied, keptCopied } from "../../domain/clipboard";
import {
  changeLayer,
  changeStep,
  chosenLayers,
  groupLayers,
  layerOf,
  leaveGroup,
  removeLayer,
  ungroup,
  type CompDocument,
  type Layer,
} from "../../domain/comp";
import { lockedOrFree } from "../../domain/locks";
import { clampFrame } from "../../domain/time";
import { holdersOf } from "../../domain/tree";
import { CHANNEL_KEYS } from "../../parts/LookBar";
import { pointByKeys } from "../../ui/KeyPointer";
import { cardsAreSmall, cardsOf, chosenIds, moveCard, openGroups } from "./choosing";
import { useDesk, type DeskState } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { paste } from "./pasting";
import { text } from "./strings";

const t = text.commands;

export interface Command {
  name: string;
  group: "Time" | "Looking" | "Layer" | "Comp";
  /** As `KeyboardEvent.key`, with `Shift+` or `Ctrl+` before where that is held; letters are small. */
  key?: string;
  /** As it is written for people, where it is not the key itself. */
  shown?: string;
  run: (store: DocumentStore) => void;
  /** Whether it can be done now; a key whose command cannot is taken and does nothing. */
  can?: (store: DocumentStore) => boolean;
}

type Ungrouped = Omit<Command, "group">;

const desk = () => useDesk.getState();
const set = (part: Partial<Omit<DeskState, "set">>) => desk().set(part);

function chosen(store: DocumentStore): Layer | undefined {
  return layerOf(store.getState().document, desk().layer);
}

const hasLayer = (store: DocumentStore) => chosen(store) !== undefined;

function go(store: DocumentStore, frame: number): void {
  const { first, last } = store.getState().document;
  set({ frame: clampFrame(frame, first, last), playing: false });
}

/** The cards that stand in the row, with the groups open that hold the chosen one. */
function cards(store: DocumentStore): Layer[] {
  const { document } = store.getState();
  const { opened, layer } = desk();
  return cardsOf(document, openGroups(document, opened, layer));
}

function choose(store: DocumentStore, by: number): void {
  const row = cards(store);
  const at = row.findIndex((l) => l.id === desk().layer);
  const next = row[at < 0 ? row.length - 1 : at + by];
  if (next) set({ layer: next.id, also: [] });
}

/** The chosen layer moved in the picture, or no more. */
export function toggleByHand(store: DocumentStore): void {
  const layer = chosen(store);
  const on = desk().tool?.kind === "place";
  set({ tool: layer && !on ? { kind: "place", owner: { layer: layer.id, step: null } } : null });
}

function shift(store: DocumentStore, by: number): void {
  const layer = chosen(store);
  if (layer) moveCard(store, layer, by);
}

function toggleSmallCards(store: DocumentStore): void {
  const { document } = store.getState();
  const { opened, layer, smallCards } = desk();
  set({ smallCards: !cardsAreSmall(document, openGroups(document, opened, layer), smallCards) });
}

/** All chosen layers as one change, named by the one or by their number. */
function onChosen(
  store: DocumentStore,
  change: (document: CompDocument, id: string) => CompDocument,
  what: (name: string) => string,
): void {
  const ids = chosenIds();
  const name = ids.length > 1 ? t.layers(ids.length) : (chosen(store)?.name ?? "");
  store.getState().commit((d) => ids.reduce(change, d), what(name));
}

function copyChosen(store: DocumentStore): void {
  const { comp, document } = store.getState();
  keepCopied({ project: comp.project, comp: comp.id, layers: chosenLayers(document, chosenIds()) });
}

/** What of a layer can be inverted: its matte, or the last of its steps that acts somewhere. */
function invertible(layer: Layer | undefined): "matte" | number | null {
  if (!layer) return null;
  if (layer.matte && layer.matte.parts.length > 0) return "matte";
  const at = layer.steps.findLastIndex((s) => s.through.by !== "everywhere");
  return at < 0 ? null : at;
}

function inverted(document: CompDocument, id: string): CompDocument {
  const layer = layerOf(document, id);
  const what = invertible(layer);
  if (!layer || what === null) return document;
  if (what === "matte")
    return changeLayer(document, id, {
      matte: layer.matte && { ...layer.matte, inverted: !layer.matte.inverted },
    });
  const { through } = layer.steps[what]!;
  return changeStep(document, id, what, { through: { ...through, inverted: !through.inverted } });
}

const TIME: Ungrouped[] = [
  { name: "Play, pause", key: " ", shown: "Space", run: () => set({ playing: !desk().playing }) },
  { name: t.oneFrameBack, key: "ArrowLeft", shown: "←", run: (s) => go(s, desk().frame - 1) },
  { name: t.oneFrameOn, key: "ArrowRight", shown: "→", run: (s) => go(s, desk().frame + 1) },
  { name: t.tenFramesBack, key: "Shift+ArrowLeft", shown: "Shift ←", run: (s) => go(s, desk().frame - 10) },
  { name: t.tenFramesOn, key: "Shift+ArrowRight", shown: "Shift →", run: (s) => go(s, desk().frame + 10) },
  { name: t.firstFrame, key: "Home", run: (s) => go(s, s.getState().document.first) },
  { name: t.lastFrame, key: "End", run: (s) => go(s, s.getState().document.last) },
  {
    name: t.playFromThisFrame,
    key: "i",
    run: (s) => {
      const { frame, range } = desk();
      set({ range: [frame, Math.max(frame, range?.[1] ?? s.getState().document.last)] });
    },
  },
  {
    name: t.playUpToThisFrame,
    key: "o",
    run: (s) => {
      const { frame, range } = desk();
      set({ range: [Math.min(frame, range?.[0] ?? s.getState().document.first), frame] });
    },
  },
  { name: t.playAllFrames, key: "u", run: () => set({ range: null }) },
  { name: t.loopWhilePlaying, run: () => set({ loop: "loop" }) },
  { name: t.playPingPong, run: () => set({ loop: "ping-pong" }) },
  { name: t.curvesShowOrHide, run: () => set({ curves: !desk().curves }) },
  { name: t.framesShowOrHide, key: "t", run: () => set({ frames: !desk().frames }) },
];

const CHANNEL_NAMES: Record<string, string> = {
  colour: t.showColour,
  rgb: t.showRgbWithoutAlpha,
  alpha: t.showAlpha,
  red: t.showRed,
  green: t.showGreen,
  blue: t.showBlue,
  straight: t.showStraightColour,
};

const LOOKING: Ungrouped[] = [
  ...CHANNEL_KEYS.map((channel, i): Ungrouped => {
    const name = CHANNEL_NAMES[channel] ?? t.show(channel);
    return { name, key: String((i + 1) % 10), run: () => set({ look: { ...desk().look, channel } }) };
  }),
  ...(["checks", "black", "white"] as const).map((background): Ungrouped => ({
    name: t.over(background),
    run: () => set({ look: { ...desk().look, background } }),
  })),
  { name: t.lookAtTheWholeComp, run: () => set({ extent: "comp" }) },
  { name: t.lookAtTheLayersUp, can: hasLayer, run: () => set({ extent: "upto" }) },
  { name: t.lookAtTheLayerAlone, can: hasLayer, run: () => set({ extent: "layer" }) },
  {
    name: t.beforeAndAfterTheLayers,
    key: "b",
    can: hasLayer,
    run: () => set({ before: !desk().before }),
  },
  {
    name: t.compareTwoLooksOrEnd,
    key: "c",
    run: () => {
      const { compare } = desk();
      set({ compare: { ...compare, how: compare.how === "off" ? "wipe" : "off" } });
    },
  },
  ...(["wipe", "beside", "difference"] as const).map((how): Ungrouped => ({
    name: t.compareBy(how === "beside" ? t.layingSideBySide : how),
    run: () => set({ compare: { ...desk().compare, how } }),
  })),
  { name: t.fitThePicture, key: "f", run: () => set({ view: null }) },
  {
    name: "100 %",
    key: "p",
    run: (s) => {
      const { width, height } = s.getState().document;
      set({ view: { zoom: 1 / window.devicePixelRatio, x: width / 2, y: height / 2 } });
    },
  },
  { name: t.drawALineTheEdges, run: () => set({ drawing: "line", instrument: "edge" }) },
  { name: t.drawABoxMeanAnd, run: () => set({ drawing: "box", instrument: "histogram" }) },
  {
    name: t.takeTheDrawnLineOr,
    key: "Escape",
    shown: "Esc",
    run: () => set({ mark: null, drawing: null, tool: null, noting: false }),
  },
  { name: t.valuesUnderThePointer, run: () => set({ instrument: "values" }) },
  { name: t.histogram, run: () => set({ instrument: "histogram" }) },
  { name: t.waveform, run: () => set({ instrument: "waveform" }) },
  { name: t.figuresOfTheMatte, run: () => set({ instrument: "matte" }) },
  { name: t.valuesAs0To255, run: () => set({ eightBit: !desk().eightBit }) },
];

const LAYER: Ungrouped[] = [
  { name: t.chooseTheLayerBehind, key: "[", run: (s) => choose(s, -1) },
  { name: t.chooseTheLayerInFront, key: "]", run: (s) => choose(s, 1) },
  { name: t.layByHand, key: "v", can: hasLayer, run: toggleByHand },
  { name: t.moveTheLayerBack, can: hasLayer, run: (s) => shift(s, -1) },
  { name: t.moveTheLayerForward, can: hasLayer, run: (s) => shift(s, 1) },
  {
    name: t.hideOrShowTheLayer,
    key: "h",
    can: hasLayer,
    run: (s) => {
      const { shown } = chosen(s)!;
      onChosen(
        s,
        (d, id) => changeLayer(d, id, { shown: !shown }),
        (name) => `${shown ? "hide" : "show"} ${name}`,
      );
    },
  },
  {
    name: t.lockOrUnlockTheLayers,
    key: "l",
    can: hasLayer,
    run: (s) => {
      const ids = chosenIds();
      const name = ids.length > 1 ? t.layers(ids.length) : chosen(s)!.name;
      const free = ids.every((id) => layerOf(s.getState().document, id)?.locked);
      s.getState().commit((d) => lockedOrFree(d, ids), (free ? t.unlock : t.lock)(name));
    },
  },
  {
    name: t.showAloneOrAll,
    key: "Shift+H",
    shown: "Shift H",
    can: (s) => hasLayer(s) || aloneIn(s.getState().document, desk().alone).length > 0,
    run: (s) => {
      const alone = aloneIn(s.getState().document, desk().alone);
      const ids = chosenIds();
      const same = alone.length === ids.length && ids.every((id) => alone.includes(id));
      set({ alone: same || !hasLayer(s) ? [] : ids });
    },
  },
  {
    name: t.duplicateTheLayer,
    can: hasLayer,
    run: (s) => {
      const { document, commit } = s.getState();
      const sources = chosenIds();
      const [, ids] = duplicateLayers(document, sources);
      const name = ids.length > 1 ? t.layers(ids.length) : chosen(s)!.name;
      commit((d) => duplicateLayers(d, sources)[0], t.duplicate(name));
      set({ layer: ids.at(-1)!, also: ids.slice(0, -1) });
    },
  },
  {
    name: t.copyTheLayers,
    key: "Ctrl+c",
    shown: "Ctrl C",
    can: hasLayer,
    run: (s) => copyChosen(s),
  },
  {
    name: t.cutTheLayers,
    key: "Ctrl+x",
    shown: "Ctrl X",
    can: hasLayer,
    run: (s) => {
      copyChosen(s);
      onChosen(s, removeLayer, t.cut);
    },
  },
  {
    name: t.pasteTheLayers,
    key: "Ctrl+v",
    shown: "Ctrl V",
    can: () => keptCopied() !== null,
    run: (s) => void paste(s),
  },
  {
    name: t.takeTheLayerOut,
    key: "Delete",
    can: hasLayer,
    run: (s) => onChosen(s, removeLayer, t.takeOut),
  },
  {
    name: t.layTheLayerTogetherWith,
    key: "g",
    can: hasLayer,
    run: (s) => {
      const ids = chosenIds();
      const [, group] = groupLayers(s.getState().document, ids);
      const name = ids.length > 1 ? t.layers(ids.length) : chosen(s)!.name;
      s.getState().commit((d) => groupLayers(d, ids)[0], t.group(name));
      if (group) set({ layer: group, also: [], opened: [...desk().opened, group] });
    },
  },
  {
    name: t.ungroupTheGroup,
    key: "Shift+G",
    shown: "Shift G",
    can: (s) => chosen(s)?.kind === "group",
    run: (s) => {
      const group = chosen(s)!;
      s.getState().commit((d) => ungroup(d, group.id), t.ungroup(group.name));
      set({ layer: (group.kind === "group" && group.layers.at(-1)?.id) || null, also: [] });
    },
  },
  {
    name: t.openOrFoldTheGroup,
    can: (s) => chosen(s)?.kind === "group",
    run: (s) => {
      const { opened } = desk();
      const { id } = chosen(s)!;
      set({ opened: opened.includes(id) ? opened.filter((i) => i !== id) : [...opened, id] });
    },
  },
  {
    name: t.takeTheLayerOutOf,
    can: (s) => holdersOf<Layer>(s.getState().document.layers, desk().layer ?? "").length > 0,
    run: (s) => {
      const layer = chosen(s)!;
      s.getState().commit((d) => leaveGroup(d, layer.id), t.outOfItsGroup(layer.name));
    },
  },
  {
    name: t.invertTheLayersMatteOr,
    key: "n",
    can: (s) => Boolean(invertible(chosen(s))),
    run: (s) => {
      const layer = chosen(s)!;
      s.getState().commit((d) => inverted(d, layer.id), t.whatIsCutByInverted(layer.name));
    },
  },
  {
    name: t.copyAllStepsOfThe,
    can: hasLayer,
    run: (s) => set({ copied: chosen(s)!.steps }),
  },
  {
    name: t.putTheCopiedStepsOn,
    can: (s) => hasLayer(s) && desk().copied.length > 0,
    run: (s) => {
      const layer = chosen(s)!;
      const { copied } = desk();
      s.getState().commit(
        (d) => changeLayer(d, layer.id, { steps: [...layer.steps, ...copied] }),
        t.copiedStepsOn(copied.length, layer.name),
      );
    },
  },
];

const COMP: Ungrouped[] = [
  {
    name: t.pinANote,
    key: "m",
    run: () => set({ noting: !desk().noting, layer: null, also: [], tool: null }),
  },
  { name: t.pointByKeys, key: "j", run: () => pointByKeys() },
  { name: t.smallOrLargeCards, key: "k", run: toggleSmallCards },
  { name: t.undo, shown: "Ctrl Z", run: (s) => s.getState().undo() },
  { name: t.redo, shown: "Ctrl Shift Z", run: (s) => s.getState().redo() },
];

export const COMMANDS: readonly Command[] = [
  ...TIME.map((c) => ({ ...c, group: "Time" as const })),
  ...LOOKING.map((c) => ({ ...c, group: "Looking" as const })),
  ...LAYER.map((c) => ({ ...c, group: "Layer" as const })),
  ...COMP.map((c) => ({ ...c, group: "Comp" as const })),
];

export function commandOf(key: string, shifted: boolean, ctrl = false): Command | undefined {
  if (ctrl) return shifted ? undefined : COMMANDS.find((c) => c.key === `Ctrl+${key.toLowerCase()}`);
  const plain = key.length === 1 ? key.toLowerCase() : key;
  const held =
    shifted && COMMANDS.find((c) => c.key === `Shift+${key.length === 1 ? key.toUpperCase() : key}`);
  if (held) return held;
  return COMMANDS.find((c) => c.key === plain && (key.length === 1 || !shifted));
}

/** Those whose name holds all the words, in the table's order. */
export function found(text: string): Command[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return COMMANDS.filter((c) => words.every((w) => `${c.group} ${c.name}`.toLowerCase().includes(w)));
}

export const keyShown = (command: Command): string =>
  command.shown ?? (command.key?.length === 1 ? command.key.toUpperCase() : (command.key ?? ""));
