import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, beforeEach, expect, it } from "vitest";
import { stubLayout } from "../../ui/layout.testing";
import { comp, show } from "./desk.testing";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { useKeys } from "./useKeys";
import { ViewBar } from "./ViewBar";

beforeAll(stubLayout);
beforeEach(() =>
  useDesk.setState({ frame: 5, layer: null, compare: { ...useDesk.getState().compare, how: "off" } }),
);
afterEach(cleanup);

function Desk({ store }: { store: DocumentStore }) {
  useKeys(store);
  return (
    <>
      <ViewBar element="e1" hasSteps={false} />
      <input aria-label="name" />
      <button>more</button>
    </>
  );
}

function desk() {
  const { store } = comp("plate");
  show(store, () => <Desk store={store} />);
}

const how = () => useDesk.getState().compare.how;

it("takes letters after a look was clicked, and leaves it the arrows", () => {
  desk();
  const look = screen.getByRole("radio", { name: "Alpha" });
  look.focus();
  fireEvent.keyDown(look, { key: "c" });
  expect(how()).toBe("wipe");
  fireEvent.keyDown(look, { key: "ArrowRight" });
  expect(useDesk.getState().frame).toBe(5);
});

it("takes nothing from a field", () => {
  desk();
  fireEvent.keyDown(screen.getByLabelText("name"), { key: "c" });
  expect(how()).toBe("off");
});

it("leaves Space to the button that Tab has led to, and plays after a click on it", () => {
  desk();
  const button = screen.getByText("more");
  const space = () => {
    const before = useDesk.getState().playing;
    const left = fireEvent.keyDown(button, { key: " " });
    return { left, plays: useDesk.getState().playing !== before };
  };
  fireEvent.keyDown(document.body, { key: "Tab" });
  button.focus();
  expect(space()).toEqual({ left: true, plays: false });
  button.blur();
  fireEvent.pointerDown(button);
  button.focus();
  expect(space()).toEqual({ left: false, plays: true });
});
