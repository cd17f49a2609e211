import { beforeEach, expect, it } from "vitest";
import { fontsNamed, inProject, keepCopied, keptCopied, keysNamed, pasted, type Copied } from "./clipboard";
import {
  addLayer,
  allLayers,
  changeLayer,
  chosenLayers,
  groupLayers,
  newDocument,
  removeLayer,
  type Layer,
} from "./comp";

beforeEach(() => localStorage.clear());

function marsh(...names: string[]) {
  let document = newDocument("Dusk", { width: 64, height: 48 }, "25", 10);
  const ids: string[] = [];
  for (const name of names) {
    const [next, id] = addLayer(document, "e1", name);
    document = next;
    ids.push(id);
  }
  return { document, ids };
}

const naming = (id: string) => [{ kind: "patch", second: `layer:${id}` }] as unknown as Layer["steps"];
const namesOf = (layers: readonly Layer[]): unknown[] =>
  layers.map((l) => (l.kind === "group" ? [l.name, ...namesOf(l.layers)] : l.name));
const seconds = (layers: readonly Layer[]) =>
  layers.flatMap((l) => l.steps.map((s) => (s as { second?: string }).second));

it("a group goes with its members once, however many of them are chosen", () => {
  const { document, ids } = marsh("plate", "reed", "kite");
  const [grouped, group] = groupLayers(document, [ids[1]!, ids[2]!]);
  const chosen = chosenLayers(grouped, [ids[2]!, group!, ids[0]!]);
  expect(namesOf(chosen)).toEqual(["plate", ["group 1", "reed", "kite"]]);
});

it("lie in front of the chosen layer, in their order, under names and ids that are free", () => {
  const { document, ids } = marsh("plate", "reed", "kite");
  const copied = { project: 1, comp: 1, layers: document.layers.slice(0, 2) };
  const [now, roots] = pasted(document, copied, 1, ids[0]!);
  expect(namesOf(now.layers)).toEqual(["plate", "plate 2", "reed 2", "reed", "kite"]);
  expect(roots).toHaveLength(2);
  const all = allLayers(now).map((l) => l.id);
  expect(new Set(all).size).toBe(all.length);
  const [again] = pasted(now, copied, 1, null);
  expect(namesOf(again.layers).slice(-2)).toEqual(["plate 3", "reed 3"]);
});

it("lie in the group of the chosen one", () => {
  const { document, ids } = marsh("plate", "reed", "kite");
  const [grouped] = groupLayers(document, [ids[1]!, ids[2]!]);
  const copied = { project: 1, comp: 1, layers: [document.layers[0]!] };
  const [now] = pasted(grouped, copied, 1, ids[1]!);
  expect(namesOf(now.layers)).toEqual(["plate", ["group 1", "reed", "plate 2", "kite"]]);
});

it("go on naming one another; in another comp what they name besides is gone, whatever lies there", () => {
  const { document, ids } = marsh("plate", "reed", "kite");
  let wired = changeLayer(document, ids[1]!, { steps: naming(ids[2]!) });
  wired = changeLayer(wired, ids[2]!, { steps: naming(ids[0]!) });
  const copied: Copied = { project: 1, comp: 1, layers: wired.layers.slice(1) };
  const [same, roots] = pasted(wired, copied, 1, null);
  expect(seconds(same.layers.slice(-2))).toEqual([`layer:${roots[1]}`, `layer:${ids[0]}`]);
  // the other comp has a layer of the plate's id
  const [other, there] = pasted(marsh("sky").document, copied, 2, null);
  const [first, second] = seconds(other.layers.slice(-2));
  expect(first).toBe(`layer:${there[1]}`);
  expect(second).toMatch(/^layer:gone/);
  expect(allLayers(other).map((l) => `layer:${l.id}`)).not.toContain(second);
});

it("cut out and pasted into the same comp they are themselves, as others name them", () => {
  const { document, ids } = marsh("plate", "reed", "kite");
  const wired = changeLayer(document, ids[2]!, { steps: naming(ids[0]!) });
  const copied = { project: 1, comp: 1, layers: [wired.layers[0]!] };
  const [now, roots] = pasted(removeLayer(wired, ids[0]!), copied, 1, ids[2]!);
  expect(roots).toEqual([ids[0]]);
  expect(namesOf(now.layers)).toEqual(["reed", "kite", "plate"]);
  expect(pasted(now, copied, 1, null)[1]).not.toEqual(roots);
});

it("are kept with the project that they are of", () => {
  const { document } = marsh("plate");
  expect(keptCopied()).toBeNull();
  keepCopied({ project: 1, comp: 1, layers: document.layers });
  expect(keptCopied()).toEqual({ project: 1, comp: 1, layers: document.layers });
});

it("names the font files that copied texts are set in, and nothing that only looks like one", () => {
  const made = (font: string, text = "Reed") => ({ kind: "text", font, text });
  const layers = [
    { id: "a", kind: "made", made: made("own-0123456789abcdef", '"font":"own-ffff"') },
    { id: "g", kind: "group", layers: [{ id: "b", kind: "made", made: made("own-0123456789abcdef-2") }] },
    { id: "c", kind: "made", made: made("sans") },
  ] as unknown as Layer[];
  expect(fontsNamed(layers)).toEqual(["own-0123456789abcdef", "own-0123456789abcdef-2"]);
});

it("name elements by other keys in another project, wherever they name them", () => {
  const { document } = marsh("plate", "reed");
  const [plate, reed] = document.layers;
  const step = { kind: "despill", second: "e7", on: true };
  const part = { kind: "channel", source: `layer:${plate!.id}` };
  const layers = [
    plate,
    { ...reed, name: "e1", steps: [step], matte: { parts: [part, { ...part, source: "e9" }] } },
  ] as Layer[];
  const copied: Copied = { project: 1, comp: 1, layers };
  expect(keysNamed(layers).sort()).toEqual(["e1", "e7", "e9"]);
  const there = inProject(copied, 2, { e1: "e31", e7: "e37", e9: "e39" });
  expect(keysNamed(there.layers).sort()).toEqual(["e31", "e37", "e39"]);
  // a name that looks like a key stays a name, and layers go on naming one another
  expect(there.layers[1]).toMatchObject({
    name: "e1",
    matte: { parts: [{ source: `layer:${plate!.id}` }, {}] },
  });
});
