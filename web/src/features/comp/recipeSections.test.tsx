import { cleanup, screen } from "@testing-library/react";
import { afterEach, beforeAll, describe, expect, it } from "vitest";
import { comp, layerNow, show, type } from "./desk.testing";
import { stubLayout } from "../../ui/layout.testing";
import { BlendSection, TransformSection, transformInWords } from "./recipeSections";

beforeAll(stubLayout);
afterEach(cleanup);

describe("how a layer is blended with what is behind", () => {
  const meets = (...names: string[]) => {
    const { store, write } = comp(...names);
    show(store, (document) => (
      <BlendSection store={store} layer={layerNow(document, `layer${names.length}`)} />
    ));
    return { store, write };
  };

  it("takes percent and keeps shares", async () => {
    const { store } = meets("plate", "kite");
    await type("opacity", "40");
    expect(layerNow(store.getState().document, "layer2").opacity).toBeCloseTo(0.4);
    await type("opacity", "140");
    expect(screen.getByRole("alert")).toHaveTextContent("opacity goes from 0 to 100");
  });
});

describe("a layer's place", () => {
  it("is typed in pixels, times and degrees, and said in a line", async () => {
    const { store } = comp("kite");
    show(store, (document) => (
      <TransformSection store={store} layer={layerNow(document, "layer1")} size={undefined} />
    ));
    for (const [name, text] of [
      ["position x", "12.5"],
      ["position y", "-3"],
      ["scale", "0.5"],
      ["rotation", "-90"],
    ] as const)
      await type(name, text);
    const layer = layerNow(store.getState().document, "layer1");
    expect(layer.transform).toMatchObject({ x: 12.5, y: -3, scale: 0.5, rotation: -90 });
    expect(transformInWords(layer, 1)).toBe("x 12.5  y -3  × 0.5 -90°");
  });

  it("cannot be made nothing", async () => {
    const { store } = comp("kite");
    show(store, (document) => (
      <TransformSection store={store} layer={layerNow(document, "layer1")} size={undefined} />
    ));
    await type("scale", "0");
    expect(screen.getByRole("alert")).toHaveTextContent("scale goes from 0.002");
    expect(layerNow(store.getState().document, "layer1").transform.scale).toBe(1);
  });
});
