import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, describe, expect, it } from "vitest";
import { comp, element, layerNow, show } from "./desk.testing";
import { stubLayout } from "../../ui/layout.testing";
import { TimingSection, BlendSection, TransformSection, transformInWords } from "./recipeSections";

beforeAll(stubLayout);
afterEach(cleanup);

const type = async (label: string, text: string) => {
  const input = screen.getByLabelText<HTMLInputElement>(label);
  fireEvent.focus(input);
  fireEvent.change(input, { target: { value: text } });
  await act(() => Promise.resolve(fireEvent.blur(input)));
};

describe("a layer's life", () => {
  const life = (facts = {}) => {
    const { store, write } = comp("plate");
    show(store, (document) => (
      <TimingSection
        store={store}
        document={document}
        layer={layerNow(document, "layer1")}
        element={element(facts)}
      />
    ));
    return { store, write };
  };
  const layer = (store: ReturnType<typeof comp>["store"]) => layerNow(store.getState().document, "layer1");

  it("is the comp's until it is told otherwise, and the comp's again where it is the same", async () => {
    const { store, write } = life();
    await type("in frame", "5");
    expect([layer(store).first, layer(store).last]).toEqual([5, null]);
    await type("in frame", "1");
    expect(layer(store).first).toBeNull();
    expect(write.mock.calls.map((c) => c[2])).toEqual(["in frame of plate", "in frame of plate"]);
  });

  it("does not end before it begins", async () => {
    const { store } = life();
    await type("in frame", "20");
    await type("out frame", "10");
    expect(screen.getByRole("alert")).toHaveTextContent("out frame goes from 20");
    expect(layer(store).last).toBeNull();
  });

  it("tells where its element is shorter, and how it goes on there", async () => {
    life();
    expect(
      screen.getByText("Its element lasts from frame 1 to 12; the nearest is held beyond."),
    ).toBeVisible();
    await act(() => Promise.resolve(fireEvent.click(screen.getByRole("radio", { name: "Loop" }))));
    expect(screen.getByText("Its element lasts from frame 1 to 12; they come again beyond.")).toBeVisible();
    await type("speed", "0.25");
    expect(screen.queryByText(/Its element lasts/)).toBeNull();
    await type("offset", "6");
    expect(screen.getByText("Its element lasts from frame 7 to 54; they come again beyond.")).toBeVisible();
  });

  it("of a still has no end to tell", () => {
    life({ kind: "still", last: 1 });
    expect(screen.queryByText(/Its element lasts/)).toBeNull();
  });
});

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
    show(store, (document) => <TransformSection store={store} layer={layerNow(document, "layer1")} />);
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
    show(store, (document) => <TransformSection store={store} layer={layerNow(document, "layer1")} />);
    await type("scale", "0");
    expect(screen.getByRole("alert")).toHaveTextContent("scale goes from 0.002");
    expect(layerNow(store.getState().document, "layer1").transform.scale).toBe(1);
  });
});
