import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { changeLayer, groupLayers } from "../../domain/comp";
import { comp, show } from "./desk.testing";
import { useDesk } from "./deskState";
import { Lineup } from "./Lineup";

beforeEach(() => useDesk.setState({ layer: null, also: [], opened: [] }));
afterEach(cleanup);

function lineup(...names: string[]) {
  const { store, write } = comp(...names);
  show(store, () => <Lineup store={store} elements={[]} />);
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

  it("folds a group to one card, opens it in place and folds it again", () => {
    const { store } = lineup("plate", "kite", "lantern");
    act(() => store.getState().sketch((d) => groupLayers(d, ["layer2", "layer3"])[0]));
    expect(order()).toEqual(["Layer plate"]);
    expect(screen.getByLabelText("Group group 1")).toHaveTextContent("2 layers");
    fireEvent.click(screen.getByLabelText("Open group 1"));
    expect(order()).toEqual(["Layer plate", "Layer kite", "Layer lantern"]);
    fireEvent.click(screen.getByLabelText("Layer kite"));
    fireEvent.click(screen.getByLabelText("Fold group 1"));
    expect(order()).toEqual(["Layer plate"]);
    expect(useDesk.getState().layer).toBe("group4");
  });

  it("opens the groups that hold the chosen layer", () => {
    const { store } = lineup("plate", "kite");
    act(() => store.getState().sketch((d) => groupLayers(d, ["layer2"])[0]));
    act(() => useDesk.setState({ layer: "layer2" }));
    expect(order()).toEqual(["Layer plate", "Layer kite"]);
  });

  it("chooses several with Ctrl and Shift", () => {
    lineup("plate", "kite", "lantern");
    fireEvent.click(screen.getByLabelText("Layer plate"));
    fireEvent.click(screen.getByLabelText("Layer lantern"), { ctrlKey: true });
    expect(useDesk.getState()).toMatchObject({ layer: "layer1", also: ["layer3"] });
    fireEvent.click(screen.getByLabelText("Layer lantern"), { ctrlKey: true });
    expect(useDesk.getState().also).toEqual([]);
    fireEvent.click(screen.getByLabelText("Layer lantern"), { shiftKey: true });
    expect(useDesk.getState().also).toEqual(["layer2", "layer3"]);
    expect(screen.getByLabelText("Layer kite")).toHaveAttribute("aria-pressed", "true");
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
