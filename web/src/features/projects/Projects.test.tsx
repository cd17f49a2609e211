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

const MARSH = {
  id: 3,
  name: "Ferrow Marsh film",
  members: [{ id: 1, name: "warden" }],
  counts: { element: 31, comp: 1 },
  touched: new Date(Date.now() - 3 * 3_600_000).toISOString(),
  picture: "/api/comps/7/card?revision=4",
};

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
  expect(link).toHaveTextContent("31 elements, 1 comp");
  expect(link).toHaveTextContent("last change 3 hours ago, warden");
  expect(link.querySelector("img")).toHaveAttribute("src", MARSH.picture);
});

it("opens the elements of one that has no comp yet, and says so", async () => {
  const bare = { ...MARSH, counts: { element: 2, comp: 0 }, picture: "" };
  page([bare, { ...bare, id: 4, name: "Bare", counts: { element: 0 } }], { status: 201 });
  const link = await screen.findByRole("link", { name: /Ferrow Marsh film/ });
  expect(link).toHaveAttribute("href", "/projects/3/elements");
  expect(link).toHaveTextContent("No comp yet");
  expect(screen.getByRole("link", { name: /Bare/ })).toHaveTextContent("Nothing in it yet");
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
