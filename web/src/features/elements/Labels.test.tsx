import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, createEvent, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import type { ElementOut } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { EVERYTHING } from "../../domain/elementSearch";
import { carry, LabelBar, LabelField } from "./Labels";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const ROWS = [
  { id: 1, name: "kite.mov", label: "skies" },
  { id: 2, name: "reeds.exr", label: "" },
] as ElementOut[];

function shown(onSearch = vi.fn()) {
  const label = vi.spyOn(elementCalls, "label").mockResolvedValue(undefined);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <button type="button" draggable onDragStart={(event) => carry(event, 2, [1, 2])}>
        card
      </button>
      <LabelBar rows={ROWS} project={1} search={EVERYTHING} onSearch={onSearch} />
      <LabelField of={[ROWS[1]!]} rows={ROWS} project={1} />
    </QueryClientProvider>,
  );
  return { label, onSearch };
}

/** A drag from the card onto something. */
function dragOnto(target: Element) {
  const held = new Map<string, string>();
  const dataTransfer = {
    setData: (k: string, v: string) => held.set(k, v),
    getData: (k: string) => held.get(k),
  };
  for (const [node, kind] of [
    [screen.getByText("card"), "dragStart"],
    [target, "dragOver"],
    [target, "drop"],
  ] as const) {
    const event = createEvent[kind](node);
    Object.defineProperty(event, "dataTransfer", { value: dataTransfer });
    fireEvent(node, event);
  }
}

it("what is marked goes under the label that it is dropped on", async () => {
  const { label } = shown();
  dragOnto(screen.getByRole("button", { name: /^skies/ }));
  await waitFor(() => expect(label).toHaveBeenCalledWith([1, 2], "skies"));
});

it("dropped beside the labels it asks for a new one", async () => {
  const { label } = shown();
  dragOnto(screen.getByText("new label"));
  const field = screen.getByLabelText("New label");
  fireEvent.change(field, { target: { value: "passes" } });
  fireEvent.submit(field.closest("form")!);
  await waitFor(() => expect(label).toHaveBeenCalledWith([1, 2], "passes"));
});

it("what was labelled is taken back: each to the label that it had", async () => {
  const { label } = shown();
  dragOnto(screen.getByRole("button", { name: /^skies/ }));
  fireEvent.click(await screen.findByRole("button", { name: "Take the labels of 2 back" }));
  await waitFor(() => expect(label).toHaveBeenCalledTimes(3));
  expect(label.mock.calls.slice(1)).toEqual([
    [[1], "skies"],
    [[2], ""],
  ]);
});

it("a label filters, and once more shows all", () => {
  const { onSearch } = shown();
  fireEvent.click(screen.getByRole("button", { name: /^skies/ }));
  expect(onSearch).toHaveBeenCalledWith({ ...EVERYTHING, label: "skies" });
});

it("is typed where there is no mouse", async () => {
  const { label } = shown();
  const field = screen.getByLabelText("Label");
  fireEvent.change(field, { target: { value: "reeds" } });
  fireEvent.blur(field);
  await waitFor(() => expect(label).toHaveBeenCalledWith([2], "reeds"));
});
