import { beforeEach, describe, expect, it } from "vitest";
import type { CompOut } from "../../api/client";
import { addLayer, newDocument } from "../../domain/comp";
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
  useDesk.setState({ layer, frame: 1, playing: false, copied: [] });
  return createDocumentStore(comp, { read: same, write: same, step: same });
}

const named = (name: string) => COMMANDS.find((c) => c.name === name)!;

beforeEach(() => useDesk.setState({ layer: null, range: null }));

describe("the table of commands", () => {
  it("has one command a key and a name", () => {
    const keys = COMMANDS.flatMap((c) => (c.key ? [c.key] : []));
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(COMMANDS.map((c) => c.name)).size).toBe(COMMANDS.length);
  });

  it("finds a command by its key, whatever the case", () => {
    expect(commandOf("B", true)?.name).toBe("Before and after the layer’s work");
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

  it("move layers and stay within the pile", () => {
    const store = desk("kite", "lantern");
    named("Move the layer back").run(store);
    expect(store.getState().document.layers.map((l) => l.name)).toEqual(["lantern", "kite"]);
    named("Move the layer back").run(store);
    expect(store.getState().document.layers.map((l) => l.name)).toEqual(["lantern", "kite"]);
  });

  it("lay a layer together with the one behind it, and take it out again", () => {
    const store = desk("kite", "lantern");
    commandOf("g", false)!.run(store);
    expect(store.getState().document.layers.map((l) => l.group)).toEqual(["group 1", "group 1"]);
    named("Take the layer out of its group").run(store);
    expect(store.getState().document.layers.map((l) => l.group)).toEqual(["group 1", ""]);
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
});
