import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { useState } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, expect, it, vi } from "vitest";
import { Desk } from "./Desk";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

let broken = true;

function Breaks() {
  const [n] = useState(0);
  if (broken) throw new Error("the kite flew away");
  return <p>all is well {n}</p>;
}

it("says what stopped a desk, keeps the way to the others, and opens it again", () => {
  const logged = vi.spyOn(console, "error").mockImplementation(() => undefined);
  const client = new QueryClient({ defaultOptions: { queries: { enabled: false } } });
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={["/projects/1/comp"]}>
        <Tooltip.Provider>
          <Routes>
            <Route
              path="/projects/:project/comp"
              element={
                <Desk name="Comp">
                  <Breaks />
                </Desk>
              }
            />
          </Routes>
        </Tooltip.Provider>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  expect(screen.getByText(/The Comp desk stopped: the kite flew away/)).toBeVisible();
  expect(screen.getByRole("link", { name: "Elements" })).toBeVisible();
  expect(logged).toHaveBeenCalled();
  broken = false;
  fireEvent.click(screen.getByRole("button", { name: "Open it again" }));
  expect(screen.getByText("all is well 0")).toBeVisible();
});
