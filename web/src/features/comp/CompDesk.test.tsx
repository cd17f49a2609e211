import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import type { ReactNode } from "react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { afterEach, expect, it, vi } from "vitest";
import { stubLayout } from "../../ui/layout.testing";
import { queries } from "../../api/queries";
import { CompDesk } from "./CompDesk";

vi.mock("./CompEditor", () => ({ CompEditor: ({ comp }: { comp: number }) => <p>editor of {comp}</p> }));
vi.mock("../../parts/Shell", () => ({
  Shell: ({ title, children }: { title: ReactNode; children: ReactNode }) => (
    <>
      {title}
      {children}
    </>
  ),
}));

afterEach(cleanup);

it("asks before a comp is deleted, beside the one editor that stays", async () => {
  stubLayout();
  const cache = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } });
  cache.setQueryData(queries.comps(1).queryKey, [{ id: 14, name: "wide" }] as never);
  const router = createMemoryRouter([{ path: "/projects/:project/comp/:comp", element: <CompDesk /> }], {
    initialEntries: ["/projects/1/comp/14"],
  });
  render(
    <QueryClientProvider client={cache}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  fireEvent.keyDown(screen.getByRole("button", { name: "wide" }), { key: "Enter" });
  fireEvent.click(await screen.findByRole("menuitem", { name: "Delete …" }));
  expect(screen.getByRole("dialog")).toHaveTextContent("can be brought back for thirty days");
  expect(screen.getAllByText("editor of 14")).toHaveLength(1);
});
