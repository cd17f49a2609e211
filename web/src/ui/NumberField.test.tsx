import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import { stubLayout } from "./layout.testing";
import { NumberField, type NumberProps } from "./NumberField";

beforeAll(stubLayout);
afterEach(cleanup);

function field(props: Partial<NumberProps> = {}) {
  const onCommit = vi.fn();
  render(
    <NumberField name="gamma" value={1.5} min={0.05} max={20} rest={1} onCommit={onCommit} {...props} />,
  );
  return { input: screen.getByLabelText<HTMLInputElement>("gamma"), onCommit };
}

const type = (input: HTMLInputElement, text: string) => {
  fireEvent.focus(input);
  fireEvent.change(input, { target: { value: text } });
  fireEvent.blur(input);
};

describe("a number", () => {
  it("is typed, with a comma or a point", () => {
    const { input, onCommit } = field();
    type(input, "2,25");
    expect(onCommit).toHaveBeenCalledExactlyOnceWith(2.25);
  });

  it("is not committed when it did not change", () => {
    const { input, onCommit } = field();
    type(input, "1.5");
    expect(onCommit).not.toHaveBeenCalled();
  });

  it("says what is wrong where it stands, and keeps the old value", () => {
    const { input, onCommit } = field();
    type(input, "bright");
    expect(screen.getByRole("alert")).toHaveTextContent("“bright” is not a number.");
    type(input, "99");
    expect(screen.getByRole("alert")).toHaveTextContent("gamma goes from 0.05 to 20.");
    expect(input.value).toBe("1.5");
    expect(onCommit).not.toHaveBeenCalled();
  });

  it("is nudged by the arrow keys: fine with Alt, coarse with Shift, within its limits", () => {
    const { input, onCommit } = field({ step: 0.1, max: 2 });
    fireEvent.keyDown(input, { key: "ArrowUp" });
    fireEvent.keyDown(input, { key: "ArrowDown", altKey: true });
    fireEvent.keyDown(input, { key: "ArrowUp", shiftKey: true });
    expect(onCommit.mock.calls.flat()).toEqual([1.6, 1.49, 2]);
  });

  it("goes back to its rest by a double click on the name", () => {
    const { onCommit } = field();
    fireEvent.doubleClick(screen.getByText("gamma"));
    expect(onCommit).toHaveBeenCalledExactlyOnceWith(1);
  });

  it("drops what was typed on Escape", () => {
    const { input, onCommit } = field();
    fireEvent.focus(input);
    fireEvent.change(input, { target: { value: "7" } });
    fireEvent.keyDown(input, { key: "Escape" });
    fireEvent.blur(input);
    expect(onCommit).not.toHaveBeenCalled();
    expect(input.value).toBe("1.5");
  });

  it("drafts while the slider moves", () => {
    const onDraft = vi.fn();
    const { onCommit } = field({ slider: [0.2, 4], step: 0.1, onDraft });
    fireEvent.keyDown(screen.getByRole("slider"), { key: "ArrowRight" });
    expect(onDraft.mock.calls.flat()[0]).toBeCloseTo(1.6);
    expect(onCommit.mock.calls.flat()[0]).toBeCloseTo(1.6);
  });
});
