import { describe, expect, it } from "vitest";
import { addLayer, newDocument, type Layer } from "./comp";
import { animatedOf, changePart, numberAt, partOf, toggledKey, withNumber, type PartPath } from "./parts";

const grade = {
  kind: "tone",
  on: true,
  mix: 1,
  keys: {},
  gain: [1, 1, 1],
  through: { by: "ellipse", x: 0, keys: {} },
};

function scene() {
  const [document, id] = addLayer(newDocument("c", { width: 64, height: 48 }, "25", 10), "e1", "kite");
  const steps = [grade] as unknown as Layer["steps"];
  return { document: changePart(document, id, { of: "layer" }, { steps }), id };
}

const step: PartPath = { of: "step", index: 0 };

describe("numbers that may change in time", () => {
  it("sets the number itself where it has no curve", () => {
    const { document, id } = scene();
    const part = partOf(document.layers[0]!, step)!;
    const next = changePart(document, id, step, withNumber(part, "gain.1", 2, 5));
    expect(next.layers[0]!.steps[0]).toMatchObject({ gain: [1, 2, 1], keys: {} });
  });

  it("sets a key where it has one, and the number stays", () => {
    const { document, id } = scene();
    let now = changePart(document, id, step, toggledKey(partOf(document.layers[0]!, step)!, "gain.0", 1));
    now = changePart(now, id, step, withNumber(partOf(now.layers[0]!, step)!, "gain.0", 3, 9));
    const part = partOf(now.layers[0]!, step)!;
    expect([1, 5, 9].map((f) => numberAt(part, "gain.0", f))).toEqual([1, 2, 3]);
    expect(part["gain"]).toEqual([1, 1, 1]);
  });

  it("keeps what it was worth when the last key goes", () => {
    const { document, id } = scene();
    const place: PartPath = { of: "transform" };
    let now = changePart(document, id, place, toggledKey(partOf(document.layers[0]!, place)!, "x", 4));
    now = changePart(now, id, place, withNumber(partOf(now.layers[0]!, place)!, "x", 40, 4));
    now = changePart(now, id, place, toggledKey(partOf(now.layers[0]!, place)!, "x", 4));
    expect(now.layers[0]!.transform).toMatchObject({ x: 40, keys: {} });
  });

  it("finds everything of a layer that changes", () => {
    const { document, id } = scene();
    let now = document;
    for (const [path, name] of [
      [{ of: "layer" }, "opacity"],
      [{ of: "transform" }, "rotation"],
      [step, "gain.2"],
      [{ of: "through", index: 0 }, "x"],
    ] as [PartPath, string][])
      now = changePart(now, id, path, toggledKey(partOf(now.layers[0]!, path)!, name, 1));
    expect(animatedOf(now.layers[0]!).map((a) => a.name)).toEqual(["rotation", "gain.2", "x", "opacity"]);
  });
});
