import { expect, it } from "vitest";
import { addLayer, newDocument } from "../../domain/comp";
import { askFor, drawnBy, type Looked } from "./asking";

const [one, first] = addLayer(newDocument("Dusk", { width: 20, height: 10 }, "25", 8), "e1", "kite");
const [document, second] = addLayer(one, "e2", "lantern");
const desk = {
  frame: 3,
  layer: null,
  look: "rgb",
  extent: "comp",
  before: false,
  playing: false,
  alone: [],
} as never as Looked;
const drawn = (part: Partial<Looked>) =>
  drawnBy(askFor({ ...desk, ...part }, { level: 0, region: null }, document, false));

it("draws those that are shown alone, and no other", () => {
  const seen = (alone: string[]) =>
    (drawn({ alone }).document?.layers ?? []).map((l) => (l as { shown: boolean }).shown);
  expect(seen([])).toEqual([true, true]);
  expect(seen([second])).toEqual([false, true]);
});

it("draws nothing anew for another chosen layer, but where that one is looked at", () => {
  expect(drawn({ layer: first })).toEqual(drawn({ layer: second }));
  expect(drawn({ layer: first })).toEqual(drawn({}));
  for (const part of [{ extent: "layer" }, { extent: "upto" }, { before: true }] as Partial<Looked>[])
    expect(drawn({ ...part, layer: first })).not.toEqual(drawn({ ...part, layer: second }));
  const tool = (layer: string) => ({ kind: "regions", owner: { layer } }) as never as Looked["tool"];
  expect(drawn({ layer: first, tool: tool(first) })).toMatchObject({ layer: first, uncut: true });
});
