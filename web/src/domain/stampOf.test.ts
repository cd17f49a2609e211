import { describe, expect, it } from "vitest";
import type { ElementOut } from "../api/client";
import { addLayer, newDocument } from "./comp";
import { stampOfShown } from "./stampOf";

const element = (key: string, more: object = {}) =>
  ({ key, encoding: "srgb", state: "ready", parts: [], facts: null, ...more }) as unknown as ElementOut;

const [shown] = addLayer(newDocument("Dusk", { width: 20, height: 10 }, "25", 8), "e1", "kite");

describe("what a comp's pictures depend on", () => {
  it("is how an element is read that it shows, and nothing of one that it does not", () => {
    const before = stampOfShown(shown, [element("e1"), element("e12")]);
    expect(stampOfShown(shown, [element("e1"), element("e12", { encoding: "linear" })])).toBe(before);
    expect(stampOfShown(shown, [element("e1"), element("e12"), element("e3")])).toBe(before);
    expect(stampOfShown(shown, [element("e1", { encoding: "linear" }), element("e12")])).not.toBe(before);
  });

  it("is every element where it shows a comp, or an element that has others joined to it", () => {
    const [nested] = addLayer(shown, "c4", "another comp");
    const others = [element("c4"), element("e9")];
    const changed = [element("c4"), element("e9", { encoding: "linear" })];
    expect(stampOfShown(nested, others)).not.toBe(stampOfShown(nested, changed));
    const joined = element("e1", { parts: [{ element: 9 }] });
    expect(stampOfShown(shown, [joined, element("e9")])).not.toBe(
      stampOfShown(shown, [joined, element("e9", { encoding: "linear" })]),
    );
  });
});
