import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeAll, expect, it, vi } from "vitest";
import { stubLayout } from "./layout.testing";
import { LongList } from "./LongList";

beforeAll(() => {
  stubLayout();
  // jsdom has no layout: a window of 800 pixels over rows of 70
  for (const side of ["offsetHeight", "clientHeight"] as const)
    vi.spyOn(HTMLElement.prototype, side, "get").mockImplementation(function (this: HTMLElement) {
      return this.tagName === "UL" ? 800 : 70;
    });
});
afterEach(cleanup);

const rows = Array.from({ length: 5000 }, (_, id) => ({ id, name: `kite ${id}` }));

function show(count: number) {
  render(
    <LongList name="Elements" rows={rows.slice(0, count)} keyOf={(r) => r.id} height={70} gap={6}>
      {(row) => <button type="button">{row.name}</button>}
    </LongList>,
  );
}

it("holds only what is near the window of five thousand rows", () => {
  show(5000);
  expect(screen.getAllByRole("button").length).toBeLessThan(40);
  expect(screen.getByText("kite 0")).toBeInTheDocument();
  expect(screen.queryByText("kite 4000")).toBeNull();
});

it("tells how many there are and which one each is", () => {
  show(5000);
  const first = screen.getByText("kite 0").closest("li");
  expect(first).toHaveAttribute("aria-setsize", "5000");
  expect(first).toHaveAttribute("aria-posinset", "1");
});

it("shows a short list whole, wherever it is scrolled", () => {
  show(60);
  expect(screen.getAllByRole("button")).toHaveLength(60);
});
