import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { BY_KEYS, hold } from "./hold";
import { KeyPointer, pointByKeys, useKeyPointer } from "./KeyPointer";

const TOLD = ["pointerdown", "pointermove", "pointerup", "pointercancel", "click", "dblclick"];

/** A picture of 100 x 60 in which a thing lies, and what came to the thing. */
function picture() {
  const came: string[] = [];
  render(
    <div data-viewer="one" data-testid="viewer" tabIndex={0}>
      <div data-testid="thing" />
      <KeyPointer room={{ width: 100, height: 60 }} />
    </div>,
  );
  const thing = screen.getByTestId("thing");
  for (const type of TOLD)
    thing.addEventListener(type, (e) => {
      const { clientX, clientY } = e as MouseEvent;
      came.push(`${type} ${clientX},${clientY}`);
    });
  document.elementFromPoint = () => thing;
  return { came, thing, pointer: screen.getByRole("application") };
}

const keys = (pointer: HTMLElement, ...names: (string | { key: string; shiftKey: boolean })[]) => {
  for (const name of names) fireEvent.keyDown(pointer, typeof name === "string" ? { key: name } : name);
};

describe("the pointer that keys move", () => {
  beforeEach(() => {
    // jsdom has none
    if (!("PointerEvent" in window)) Object.assign(window, { PointerEvent: class extends MouseEvent {} });
    useKeyPointer.setState({ viewer: "one", asked: 1 });
  });
  afterEach(cleanup);

  it("clicks what lies under it, and twice at once is a double click", () => {
    const { came, pointer } = picture();
    keys(pointer, "ArrowRight", { key: "ArrowUp", shiftKey: true }, "Enter");
    expect(came).toEqual([
      "pointermove 51,30", "pointermove 51,20", "pointerdown 51,20", "pointerup 51,20", "click 51,20",
    ]); // prettier-ignore
    keys(pointer, "Enter");
    expect(came.at(-1)).toBe("dblclick 51,20");
  });

  it("drags what it holds, and stays in the picture", () => {
    const { came, pointer } = picture();
    keys(pointer, " ");
    for (let i = 0; i < 9; i += 1) keys(pointer, { key: "ArrowLeft", shiftKey: true });
    keys(pointer, " ");
    expect(came[0]).toBe("pointerdown 50,30");
    expect(came.slice(-3)).toEqual(["pointermove 0,30", "pointerup 0,30", "click 0,30"]);
  });

  it("gives up what it holds by Escape, and goes by another", () => {
    const { came, pointer } = picture();
    keys(pointer, " ", "ArrowDown", "Escape");
    expect(came.at(-1)).toMatch(/^pointercancel/);
    expect(useKeyPointer.getState().viewer).toBe("one");
    keys(pointer, "Escape");
    expect(useKeyPointer.getState().viewer).toBeNull();
  });

  it("is there by its key, comes back by it, and goes by it once it is there", () => {
    useKeyPointer.setState({ viewer: null, asked: 0 });
    const { pointer } = picture();
    pointer.blur();
    act(() => pointByKeys());
    expect(useKeyPointer.getState().viewer).toBe("one");
    act(() => pointByKeys());
    expect(useKeyPointer.getState().viewer).toBeNull();
  });

  it("needs no capture, which a pointer that is none cannot have", () => {
    expect(() => hold(document.body, BY_KEYS)).not.toThrow();
  });
});
