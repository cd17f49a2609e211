import type { Layer } from "../../domain/comp";
import { beforeEach, describe, expect, it } from "vitest";
import type { CompOut } from "../../api/client";
import { addLayer, changeLayer, newDocument } from "../../domain/comp";
import { addPart, newChannel, withMatte } from "../../domain/mattes";
import { commandOf, COMMANDS, found, keyShown } from "./commands";
import { useDesk } from "./deskState";
import { createDocumentStore } from "./documentStore";

function desk(...names: string[]) {
  let document = newDocument("Dusk", { width: 100, height: 50 }, "25", 48);
  let layer: string | null = null;
  for (const name of names) [document, layer] = addLayer(document, "e1", name);
  const comp = { id: 1, project: 1, name: "Dusk", revision: 1, document } as unknown as CompOut;
  const same = () => Promise.resolve(comp);
  // other files' tests share the desk
  const compare = { ...useDesk.getState().compare, how: "off" as const };
  useDesk.setState({ layer, frame: 1, playing: false, copied: [], before: false, compare });
  return createDocumentStore(comp, { read: same, write: same, step: same });
}

const named = (name: string) => COMMANDS.find((c) => c.name === name)!;

beforeEach(() => useDesk.setState({ layer: null, range: null }));

/** Names of layers, groups as lists. */
const treeOf = (layers: readonly Layer[]): unknown[] =>
  layers.map((l) => (l.kind === "group" ? treeOf(l.layers) : l.name));

describe("the table of commands", () => {
  it("has one command a key and a name", () => {
    const keys = COMMANDS.flatMap((c) => (c.key ? [c.key] : []));
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(COMMANDS.map((c) => c.name)).size).toBe(COMMANDS.length);
  });

  it("finds a command by its key, whatever the case", () => {
    expect(commandOf("B", true)?.name).toBe("Before and after the layer’s steps");
    expect(commandOf("ArrowLeft", true)?.name).toBe("Ten frames back");
    expect(commandOf("q", false)).toBeUndefined();
  });

  it("finds commands by parts of their names", () => {
    expect(found("layer duplic").map((c) => c.name)).toEqual(["Duplicate the layer"]);
    expect(found("")).toHaveLength(COMMANDS.length);
    expect(found("zzz")).toEqual([]);
  });

  it("writes keys for people", () => {
    expect(keyShown(named("Play, pause"))).toBe("Space");
    expect(keyShown(named("Fit the picture"))).toBe("F");
    expect(keyShown(named("Waveform"))).toBe("");
  });
});

describe("commands", () => {
  it("of a layer cannot be done without one", () => {
    const store = desk();
    expect(named("Take the layer out").can!(store)).toBe(false);
    expect(named("Put the copied steps on the layer").can!(desk("kite"))).toBe(false);
  });

  it("copy, cut and paste what is chosen", () => {
    localStorage.clear();
    const store = desk("kite", "lantern");
    const press = (key: string) => commandOf(key, false, true)!;
    expect(press("v").can!(store)).toBe(false);
    press("C").run(store);
    press("v").run(store);
    const names = () => store.getState().document.layers.map((l) => l.name);
    expect(names()).toEqual(["kite", "lantern", "lantern 2"]);
    useDesk.setState({ also: [store.getState().document.layers[0]!.id] });
    press("x").run(store);
    expect(names()).toEqual(["lantern"]);
    press("v").run(store);
    expect(names()).toEqual(["lantern", "kite", "lantern 2"]);
    expect(useDesk.getState().also).toHaveLength(1);
    expect(commandOf("c", false)?.name).toBe("Compare two looks, or end it");
    localStorage.clear();
  });

  it("move layers and stay within the pile", () => {
    const store = desk("kite", "lantern");
    named("Move the layer back").run(store);
    expect(store.getState().document.layers.map((l) => l.name)).toEqual(["lantern", "kite"]);
    named("Move the layer back").run(store);
    expect(store.getState().document.layers.map((l) => l.name)).toEqual(["lantern", "kite"]);
  });

  it("group all that is chosen in one change, take a layer out again, and ungroup", () => {
    const store = desk("plate", "kite", "lantern");
    useDesk.setState({ layer: "layer3", also: ["layer2"] });
    commandOf("g", false)!.run(store);
    const tree = () => treeOf(store.getState().document.layers);
    expect(tree()).toEqual(["plate", ["kite", "lantern"]]);
    expect(useDesk.getState().layer).toBe("group4");
    useDesk.setState({ layer: "layer2", also: [] });
    named("Take the layer out of its group").run(store);
    expect(tree()).toEqual(["plate", ["lantern"], "kite"]);
    useDesk.setState({ layer: "group4" });
    commandOf("G", true)!.run(store);
    expect(tree()).toEqual(["plate", "lantern", "kite"]);
  });

  it("remove all that is chosen in one change", () => {
    const store = desk("plate", "kite", "lantern");
    useDesk.setState({ layer: "layer3", also: ["layer1"] });
    commandOf("Delete", false)!.run(store);
    expect(treeOf(store.getState().document.layers)).toEqual(["kite"]);
  });

  it("move a layer into an open group and out on its other side", () => {
    const store = desk("plate", "kite", "lantern");
    useDesk.setState({ layer: "layer2", also: [] });
    commandOf("g", false)!.run(store);
    useDesk.setState({ layer: "layer3", also: [], opened: ["group4"] });
    const moves = ["Move the layer back", "Move the layer back", "Move the layer back"];
    const seen = moves.map((name) => {
      named(name).run(store);
      return treeOf(store.getState().document.layers);
    });
    expect(seen).toEqual([
      ["plate", ["kite", "lantern"]],
      ["plate", ["lantern", "kite"]],
      ["plate", "lantern", ["kite"]],
    ]);
  });

  it("invert the matte in one key, or where the last step acts", () => {
    const store = desk("kite");
    expect(commandOf("n", false)!.can!(store)).toBe(false);
    const own = { layer: "layer1", step: null };
    store.getState().commit((d) => withMatte(d, own, (m) => addPart(m, newChannel(""))), "matte");
    commandOf("n", false)!.run(store);
    expect(store.getState().document.layers[0]!.matte?.inverted).toBe(true);
  });

  it("go through frames and stay within the comp", () => {
    const store = desk("kite");
    named("Ten frames back").run(store);
    expect(useDesk.getState().frame).toBe(1);
    named("Last frame").run(store);
    expect(useDesk.getState().frame).toBe(48);
  });

  it("mark the range that is played, from either end, and take it away", () => {
    const store = desk("kite");
    useDesk.setState({ frame: 12 });
    named("Play from this frame").run(store);
    expect(useDesk.getState().range).toEqual([12, 48]);
    useDesk.setState({ frame: 30 });
    named("Play up to this frame").run(store);
    expect(useDesk.getState().range).toEqual([12, 30]);
    // a beginning behind the end moves the end along
    useDesk.setState({ frame: 40 });
    named("Play from this frame").run(store);
    expect(useDesk.getState().range).toEqual([40, 40]);
    named("Play all frames").run(store);
    expect(useDesk.getState().range).toBeNull();
  });

  it("change what is looked at, and nothing of the comp", () => {
    const store = desk("kite");
    const before = store.getState().document;
    named("Show alpha").run(store);
    named("Over white").run(store);
    named("Look at the layer alone").run(store);
    commandOf("b", false)!.run(store);
    commandOf("c", false)!.run(store);
    const { look, extent, before: earlier, compare } = useDesk.getState();
    expect([look.channel, look.background, extent, earlier, compare.how]).toEqual([
      "alpha",
      "white",
      "layer",
      true,
      "wipe",
    ]);
    commandOf("b", false)!.run(store);
    commandOf("c", false)!.run(store);
    expect([useDesk.getState().before, useDesk.getState().compare.how]).toEqual([false, "off"]);
    named("Look at the whole comp").run(store);
    named("Show colour").run(store);
    named("Over checks").run(store);
    expect(store.getState().document).toBe(before);
  });

  it("show the picture pixel for pixel, and fitted again", () => {
    const store = desk("kite");
    commandOf("p", false)!.run(store);
    expect(useDesk.getState().view).toEqual({ zoom: 1 / window.devicePixelRatio, x: 50, y: 25 });
    commandOf("f", false)!.run(store);
    expect(useDesk.getState().view).toBeNull();
  });

  it("go from layer to layer and stop at both ends", () => {
    const store = desk("plate", "kite", "lantern");
    const at = () => useDesk.getState().layer;
    commandOf("[", false)!.run(store);
    expect(at()).toBe("layer2");
    commandOf("[", false)!.run(store);
    commandOf("[", false)!.run(store);
    expect(at()).toBe("layer1");
    commandOf("]", false)!.run(store);
    expect(at()).toBe("layer2");
    useDesk.setState({ layer: null });
    commandOf("]", false)!.run(store);
    expect(at()).toBe("layer3");
  });

  it("hide, duplicate and take out, each as one change with its name", () => {
    const store = desk("plate", "kite");
    commandOf("h", false)!.run(store);
    expect(store.getState().document.layers.map((l) => l.shown)).toEqual([true, false]);
    named("Duplicate the layer").run(store);
    expect(store.getState().document.layers.map((l) => l.name)).toEqual(["plate", "kite", "kite 2"]);
    expect(useDesk.getState().layer).toBe("layer3");
    commandOf("Delete", false)!.run(store);
    expect(store.getState().document.layers.map((l) => l.name)).toEqual(["plate", "kite"]);
  });

  it("copy steps from one layer behind those of another", () => {
    const store = desk("plate", "kite");
    const levels = { kind: "levels", gamma: 2 } as never;
    store.getState().commit((d) => changeLayer(d, "layer2", { steps: [levels] }), "steps");
    named("Copy all steps of the layer").run(store);
    useDesk.setState({ layer: "layer1" });
    const put = named("Put the copied steps on the layer");
    expect(put.can!(store)).toBe(true);
    put.run(store);
    put.run(store);
    expect(store.getState().document.layers.map((l) => l.steps.length)).toEqual([2, 1]);
  });

  it("begin to draw on the picture and leave it", () => {
    const store = desk("kite");
    named("Draw a line: the edge’s profile").run(store);
    expect([useDesk.getState().drawing, useDesk.getState().instrument]).toEqual(["line", "edge"]);
    commandOf("Escape", false)!.run(store);
    expect([useDesk.getState().drawing, useDesk.getState().mark]).toEqual([null, null]);
  });
});
