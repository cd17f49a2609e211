import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, describe, expect, it } from "vitest";
import { comp, element, layerNow, show, type } from "./desk.testing";
import { useDesk } from "./deskState";
import { stubLayout } from "../../ui/layout.testing";
import { TimingSection } from "./TimingSection";

beforeAll(stubLayout);
afterEach(cleanup);

const press = (role: string, name: string) =>
  act(() => Promise.resolve(fireEvent.click(screen.getByRole(role, { name }))));

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

  it("of a still has no end to tell, and no pace", () => {
    life({ kind: "still", last: 1 });
    expect(screen.queryByText(/Its element lasts/)).toBeNull();
    expect(screen.queryByRole("radio", { name: "Own frame" })).toBeNull();
  });

  it("is frozen at what it shows, and goes on at its speed again", async () => {
    const { store } = life();
    await type("offset", "2");
    useDesk.setState({ frame: 9 });
    await press("radio", "Own frame");
    // the core takes the offset off: frame 9 shows 9 - 2 = 7, and 9 is what is set
    expect(layer(store).own_frame).toBe(9);
    expect(screen.queryByLabelText("speed")).toBeNull();
    expect(screen.getByText(/Frozen at this frame/)).toBeVisible();
    await press("button", "Let own frame change: set a first key at this frame");
    expect(layer(store).keys["own_frame"]!.keys).toEqual([{ frame: 9, value: 9, way: "smooth" }]);
    expect(screen.queryByText(/Frozen at this frame/)).toBeNull();
    await press("radio", "Speed");
    expect(layer(store)).toMatchObject({ own_frame: null, keys: {} });
  });

  it("says what is seen between two frames", async () => {
    const { store } = life();
    await press("radio", "Blend");
    expect(layer(store).between).toBe("blend");
  });
});
