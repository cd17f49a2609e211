import { describe, expect, it } from "vitest";
import type { StateOut } from "../../api/comps";
import type { PresetOut } from "../../api/presets";
import { addLayer, changeLayer, layerOf, newDocument, type Layer } from "../../domain/comp";
import { choicesOf, FIRST_COMPARISON, sidesOf } from "./comparing";

const [made, id] = addLayer(newDocument("dusk", { width: 64, height: 48 }, "25", 10), "e1", "kite");
const steps = [{ kind: "blur" }, { kind: "levels" }] as unknown as Layer["steps"];
const layer = layerOf(changeLayer(made, id, { steps }), id)!;
const states = [{ revision: 4, name: "first look", at: "", document: made }] as unknown as StateOut[];
const looks = [
  { id: 9, kind: "look", name: "the tail", content: { frame: 3, layer: id, extent: "layer" } },
] as PresetOut[];
const titles = { blur: "Blur", levels: "Levels" };
const ask = { frame: 1, level: 1, extent: "comp" as const, layer: id, passing: true };

describe("what a comp is compared with", () => {
  it("offers the layer before each of its steps, states and looks", () => {
    const labels = choicesOf(layer, titles, states, looks).map((a) => a.option.label);
    expect(labels).toEqual([
      "before kite’s steps",
      "before step 1, Blur",
      "before step 2, Levels",
      "kite alone",
      "the layers up to kite",
      "first look",
      "the tail",
    ]);
    expect(choicesOf(undefined, titles, [], [])).toEqual([]);
  });

  it("shows a step on one side and what was before it on the other", () => {
    const step = choicesOf(layer, titles, [], [])[2]!;
    const { first, second } = sidesOf(ask, { ...FIRST_COMPARISON, how: "wipe" }, step);
    expect([first.stage, second?.stage]).toEqual([2, 1]);
    expect(second?.passing).toBe(false);
  });

  it("asks for a difference in one picture", () => {
    const look = choicesOf(layer, titles, [], looks).at(-1);
    const { first, second } = sidesOf(ask, { ...FIRST_COMPARISON, how: "difference", gain: 8 }, look);
    expect(second).toBeNull();
    expect(first.gain).toBe(8);
    expect(first.against).toMatchObject({ frame: 3, layer: id, extent: "layer", before: false });
  });

  it("compares as much of the comp as is looked at", () => {
    const wipe = { ...FIRST_COMPARISON, how: "wipe" as const };
    const alone = { ...ask, extent: "layer" as const };
    const [before, , , , , state] = choicesOf(layer, titles, states, looks);
    expect(sidesOf(alone, wipe, before).second).toMatchObject({ extent: "layer", before: true });
    expect(sidesOf(alone, wipe, state).second).toMatchObject({ extent: "layer" });
    const empty = { ...states[0]!, document: newDocument("dusk", { width: 64, height: 48 }, "25", 10) };
    const older = choicesOf(layer, titles, [empty] as unknown as StateOut[], []).at(-1);
    expect(sidesOf(alone, wipe, older).second).toMatchObject({ extent: "comp", layer: null });
  });

  it("is the picture alone where nothing is compared", () => {
    expect(sidesOf(ask, FIRST_COMPARISON, undefined)).toEqual({ first: ask, second: null });
  });
});
