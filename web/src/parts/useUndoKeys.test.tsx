import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { useUndoKeys } from "./useUndoKeys";

afterEach(cleanup);

function Desk({ run }: { run: (() => void) | undefined }) {
  useUndoKeys({ undo: run });
  return (
    <>
      <button>straight</button>
      <input aria-label="rate" />
    </>
  );
}

it("takes back by Ctrl Z anywhere but in what is typed", () => {
  const run = vi.fn();
  const { rerender } = render(<Desk run={run} />);
  fireEvent.keyDown(screen.getByText("straight"), { key: "z", ctrlKey: true });
  expect(run).toHaveBeenCalledTimes(1);
  fireEvent.keyDown(screen.getByLabelText("rate"), { key: "z", ctrlKey: true });
  fireEvent.keyDown(document.body, { key: "z" });
  fireEvent.keyDown(document.body, { key: "Z", ctrlKey: true, shiftKey: true });
  expect(run).toHaveBeenCalledTimes(1);
  rerender(<Desk run={undefined} />);
  fireEvent.keyDown(document.body, { key: "z", ctrlKey: true });
  expect(run).toHaveBeenCalledTimes(1);
});

it("does again by Ctrl Shift Z where a desk can", () => {
  const redo = vi.fn();
  function Both() {
    useUndoKeys({ redo });
    return null;
  }
  render(<Both />);
  fireEvent.keyDown(document.body, { key: "Z", ctrlKey: true, shiftKey: true });
  fireEvent.keyDown(document.body, { key: "z", ctrlKey: true });
  expect(redo).toHaveBeenCalledTimes(1);
});
