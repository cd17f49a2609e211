import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { changeLayer } from "../../domain/comp";
import { comp, show } from "./desk.testing";
import { stubLayout } from "../../ui/layout.testing";
import { useDesk } from "./deskState";
import { TimeBar } from "./TimeBar";

beforeAll(stubLayout);
beforeEach(() =>
  useDesk.setState({ frame: 10, playing: false, layer: null, range: null, loop: "loop", curves: false }),
);
afterEach(cleanup);

function bar() {
  const { store } = comp("plate");
  show(store, (document) => <TimeBar document={document} />);
  return store;
}

const time = () => screen.getByRole("slider", { name: "Time" });
const frame = () => useDesk.getState().frame;

describe("the time bar", () => {
  it("steps, jumps and ends within the comp's frames", () => {
    bar();
    fireEvent.click(screen.getByRole("button", { name: "One frame on" }));
    expect(frame()).toBe(11);
    fireEvent.keyDown(time(), { key: "PageUp" });
    expect(frame()).toBe(21);
    fireEvent.keyDown(time(), { key: "ArrowLeft" });
    expect(frame()).toBe(20);
    fireEvent.keyDown(time(), { key: "End" });
    fireEvent.keyDown(time(), { key: "ArrowRight" });
    expect(frame()).toBe(48);
    fireEvent.keyDown(time(), { key: "Home" });
    fireEvent.click(screen.getByRole("button", { name: "One frame back" }));
    expect(frame()).toBe(1);
  });

  it("tells where it stands to who cannot see it", () => {
    bar();
    expect(time()).toHaveAttribute("aria-valuenow", "10");
    expect(time()).toHaveAttribute("aria-valuemax", "48");
    expect(screen.getByText("25 fps")).toBeVisible();
  });

  it("stops playing when somebody steps", () => {
    bar();
    fireEvent.click(screen.getByRole("button", { name: "Play" }));
    expect(useDesk.getState().playing).toBe(true);
    expect(screen.getByRole("button", { name: "Pause" })).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: "One frame on" }));
    expect(useDesk.getState().playing).toBe(false);
  });

  it("goes round the ways of going on at the end", () => {
    bar();
    for (const [shown, next] of [
      ["Loop", "ping-pong"],
      ["Ping-pong", "off"],
      ["Once", "loop"],
    ] as const) {
      fireEvent.click(screen.getByRole("button", { name: shown }));
      expect(useDesk.getState().loop).toBe(next);
    }
  });

  it("shows the range that is played and the life of the chosen layer", () => {
    const store = bar();
    act(() => {
      useDesk.setState({ range: [5, 20], layer: "layer1" });
      store.getState().sketch((d) => changeLayer(d, "layer1", { first: 3, last: 30 }));
    });
    expect(screen.getByTitle("Played: frames 5 to 20")).toHaveStyle({ left: `${(4 / 48) * 100}%` });
    expect(screen.getByTitle("plate: frames 3 to 30")).toBeInTheDocument();
  });
});
