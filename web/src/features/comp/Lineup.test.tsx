import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { changeLayer, groupWithBehind } from "../../domain/comp";
import { comp } from "./desk.testing";
import { useDesk } from "./deskState";
import { Lineup } from "./Lineup";

beforeEach(() => useDesk.setState({ layer: null }));
afterEach(cleanup);

function lineup(...names: string[]) {
  const { store, write } = comp(...names);
  render(<Lineup store={store} elements={[]} />);
  return { store, write };
}

const order = () =>
  screen.getAllByRole("button", { name: /^Layer / }).map((card) => card.getAttribute("aria-label"));

describe("the lineup", () => {
  it("stands from far to near, with how each is blended with what is behind it", () => {
    const { store } = lineup("plate", "kite", "lantern");
    expect(order()).toEqual(["Layer plate", "Layer kite", "Layer lantern"]);
    expect(screen.getAllByText("over")).toHaveLength(2);
    act(() => store.getState().sketch((d) => changeLayer(d, "layer2", { operator: "plus", opacity: 0.4 })));
    expect(screen.getByText("plus")).toBeInTheDocument();
    expect(screen.getByText("40 %")).toBeInTheDocument();
  });

  it("is reordered from the keyboard, as one change", async () => {
    const { write } = lineup("plate", "kite", "lantern");
    await act(() =>
      Promise.resolve(
        fireEvent.keyDown(screen.getByLabelText("Layer lantern"), { key: "ArrowLeft", altKey: true }),
      ),
    );
    expect(order()).toEqual(["Layer plate", "Layer lantern", "Layer kite"]);
    expect(write).toHaveBeenCalledOnce();
    expect(write.mock.calls[0]?.[2]).toBe("move lantern");
  });

  it("goes on from where the last move left the card", async () => {
    lineup("plate", "kite", "lantern");
    for (let n = 0; n < 2; n += 1) {
      await act(() =>
        Promise.resolve(
          fireEvent.keyDown(screen.getByLabelText("Layer lantern"), { key: "ArrowLeft", altKey: true }),
        ),
      );
    }
    expect(order()).toEqual(["Layer lantern", "Layer plate", "Layer kite"]);
  });

  it("chooses the card that is pressed, and says what is hidden", () => {
    const { store } = lineup("plate", "kite");
    fireEvent.click(screen.getByLabelText("Layer kite"));
    expect(useDesk.getState().layer).toBe("layer2");
    expect(screen.getByLabelText("Layer kite")).toHaveAttribute("aria-pressed", "true");
    act(() => store.getState().sketch((d) => changeLayer(d, "layer2", { shown: false })));
    expect(screen.getByLabelText("Layer kite, hidden")).toBeInTheDocument();
  });

  it("holds neighbours of one group in a frame with its name", () => {
    const { store } = lineup("plate", "kite", "lantern");
    act(() => store.getState().sketch((d) => groupWithBehind(d, "layer3")));
    expect(screen.getAllByText("group 1")).toHaveLength(1);
    expect(store.getState().draft!.layers.map((l) => l.group)).toEqual(["", "group 1", "group 1"]);
    act(() => store.getState().sketch((d) => changeLayer(d, "layer3", { group: "" })));
    expect(screen.queryByText("group 1")).toBeNull();
  });

  it("says so when a layer's element is gone", () => {
    lineup("plate");
    expect(screen.getByText("no element")).toBeInTheDocument();
  });

  it("does not take a press without a move for a drag", () => {
    const { write } = lineup("plate", "kite");
    const card = screen.getByLabelText("Layer kite");
    fireEvent.pointerDown(card, { button: 0, clientX: 100 });
    fireEvent(window, new MouseEvent("pointermove", { clientX: 103 }));
    fireEvent(window, new MouseEvent("pointerup", { clientX: 103 }));
    expect(write).not.toHaveBeenCalled();
  });
});
