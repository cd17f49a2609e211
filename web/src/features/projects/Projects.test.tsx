import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, beforeAll, expect, it, vi } from "vitest";
import { client } from "../../api/client";
import { stubLayout } from "../../ui/layout.testing";
import { Projects } from "./Projects";

beforeAll(stubLayout);
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const MARSH = { id: 3, name: "Ferrow Marsh film", members: [{ id: 1, name: "warden" }] };

/** The page with a server that has these projects, and answers a new one so. */
function page(projects: object[], made: { data?: object; error?: object; status: number }) {
  vi.spyOn(client, "GET").mockImplementation(((path: string) =>
    Promise.resolve({
      data: path === "/api/projects" ? projects : { person: { id: 1, name: "warden" } },
      response: { ok: true, status: 200 },
    })) as never);
  const post = vi.spyOn(client, "POST").mockImplementation((() =>
    Promise.resolve({
      data: made.data,
      error: made.error,
      response: { ok: made.status < 400, status: made.status },
    })) as never);
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <Tooltip.Provider>
        <MemoryRouter initialEntries={["/"]}>
          <Routes>
            <Route path="/" element={<Projects />} />
            <Route path="/projects/:project/elements" element={<p>its elements</p>} />
          </Routes>
        </MemoryRouter>
      </Tooltip.Provider>
    </QueryClientProvider>,
  );
  return post;
}

it("lists the projects of the person, each with its members", async () => {
  page([MARSH], { status: 201 });
  const link = await screen.findByRole("link", { name: /Ferrow Marsh film/ });
  expect(link).toHaveAttribute("href", "/projects/3/comp");
  expect(link).toHaveTextContent("warden");
});

it("says what a project is where there is none yet", async () => {
  page([], { status: 201 });
  expect(await screen.findByText("No project yet")).toBeVisible();
  expect(screen.getByText(/Only its members see it/)).toBeVisible();
});

it("makes one and opens it; an empty name cannot be sent", async () => {
  const post = page([], { status: 201, data: { ...MARSH, id: 9 } });
  fireEvent.click(await screen.findByRole("button", { name: "New project" }));
  expect(screen.getByRole("button", { name: "Create" })).toBeDisabled();
  fireEvent.change(screen.getByLabelText("Name"), { target: { value: "  " } });
  expect(screen.getByRole("button", { name: "Create" })).toBeDisabled();
  fireEvent.change(screen.getByLabelText("Name"), { target: { value: "Dusk" } });
  fireEvent.click(screen.getByRole("button", { name: "Create" }));
  expect(await screen.findByText("its elements")).toBeVisible();
  expect(post).toHaveBeenCalledWith("/api/projects", { body: { name: "Dusk" } });
});

it("keeps the name that was typed beside what was wrong with it", async () => {
  const problem = { code: "value-refused", message: "The name is too long.", advice: "", where: "name" };
  page([], { status: 422, error: problem });
  fireEvent.click(await screen.findByRole("button", { name: "New project" }));
  fireEvent.change(screen.getByLabelText("Name"), { target: { value: "Dusk" } });
  fireEvent.click(screen.getByRole("button", { name: "Create" }));
  expect(await screen.findByText("The name is too long.")).toBeVisible();
  expect(screen.getByLabelText("Name")).toHaveValue("Dusk");
});
