import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { changeLayer } from "../../domain/comp";
import { CompareBar } from "./CompareBar";
import { comp, show } from "./desk.testing";
import { stubLayout } from "../../ui/layout.testing";
import { useDesk } from "./deskState";

const start = useDesk.getState().compare;

beforeAll(stubLayout);
beforeEach(() => useDesk.setState({ layer: null, compare: { ...start, how: "wipe", with: "" } }));
afterEach(cleanup);

function bar(layer: string | null) {
  const { store } = comp("plate", "kite");
  useDesk.setState({ layer });
  show(store, () => <CompareBar store={store} comp={1} project={1} />);
  return store;
}

const how = () => useDesk.getState().compare.how;

describe("comparing two looks", () => {
  it("needs something to compare with", () => {
    bar(null);
    expect(screen.getByText("nothing yet: choose a layer, or name a state")).toBeVisible();
  });

  it("begins with the picture before the chosen layer's steps", () => {
    bar("layer2");
    expect(screen.getByRole("combobox", { name: "Compared with" })).toHaveTextContent(/kite/);
  });

  it("offers what stands before each of its steps", () => {
    const store = bar("layer2");
    const levels = { kind: "levels", on: true, through: { by: "everywhere" } } as never;
    act(() => store.getState().commit((d) => changeLayer(d, "layer2", { steps: [levels, levels] }), "steps"));
    fireEvent.keyDown(screen.getByRole("combobox", { name: "Compared with" }), { key: "Enter" });
    expect(screen.getAllByRole("option").length).toBeGreaterThanOrEqual(3);
  });

  it("goes by a wipe that leans, side by side, or a difference that is multiplied", () => {
    bar("layer2");
    const lean = screen.getByLabelText<HTMLInputElement>("lean");
    fireEvent.focus(lean);
    fireEvent.change(lean, { target: { value: "30" } });
    fireEvent.blur(lean);
    expect(useDesk.getState().compare.angle).toBe(30);
    fireEvent.click(screen.getByRole("radio", { name: "Difference" }));
    expect([how(), screen.queryByLabelText("lean")]).toEqual(["difference", null]);
    const times = screen.getByLabelText<HTMLInputElement>("times");
    fireEvent.focus(times);
    fireEvent.change(times, { target: { value: "300" } });
    fireEvent.blur(times);
    expect(screen.getByRole("alert")).toHaveTextContent("times goes from 1 to 255.");
    fireEvent.click(screen.getByRole("radio", { name: "Side by side" }));
    expect([how(), screen.queryByLabelText("times")]).toEqual(["beside", null]);
    fireEvent.click(screen.getByRole("button", { name: "End comparing" }));
    expect(how()).toBe("off");
  });

  it("asks for a name before a state or a look is kept", () => {
    bar("layer2");
    fireEvent.click(screen.getByRole("button", { name: "Name this state …" }));
    expect(screen.getByRole("dialog", { name: "Name this state" })).toBeVisible();
    expect(screen.getByRole("button", { name: "Keep it" })).toBeDisabled();
    fireEvent.change(screen.getByLabelText("Name"), { target: { value: "warmer" } });
    expect(screen.getByRole("button", { name: "Keep it" })).toBeEnabled();
    fireEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(screen.queryByRole("dialog")).toBeNull();
  });
});
