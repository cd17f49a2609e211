import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, expect, it } from "vitest";
import { queries } from "../../api/queries";
import { ProofPage } from "./ProofPage";

afterEach(cleanup);

const FRAME = {
  colour_error: 0, alpha_error: 0, colour_mean: 0, alpha_low: 0, alpha_high: 1, lost_light: 0, clipped: 0, within: true,
}; // prettier-ignore

function page(proof: object | null, good: boolean) {
  const cache = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } });
  const job = { person: "ada", ordered: "2026-01-01T00:00:00Z", ended: null, state: "done" };
  const row = {
    id: 7, comp_name: "Dusk", format_title: "PNG frames", take: { layers: [] }, first: 1, last: 3, frames: 3,
    rate: "25", encoding: "srgb", files: ["a.proof.json"], path: "x", file: "a.####.png", job, proof, good,
  }; // prettier-ignore
  cache.setQueryData(queries.delivery(7).queryKey, row as never);
  cache.setQueryData(queries.project(1).queryKey, { name: "Marsh" } as never);
  render(
    <QueryClientProvider client={cache}>
      <MemoryRouter initialEntries={["/projects/1/delivery/7/proof"]}>
        <Routes>
          <Route path="/projects/:project/delivery/:delivery/proof" element={<ProofPage />} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

const PROOF = {
  frames_found: 3, frames_meant: 3, missing: [], rate_found: null, rate_meant: null, width: 8, height: 4,
  alpha_low: 0, alpha_high: 1, colour_error: 0.5, alpha_error: 0, lost_light: 0, clipped: 0,
  problems: ["Frame 2 differs."], hashes: { "a.0001.png": "00ff" }, worst_frame: 2,
  frames: [{ ...FRAME, frame: 1 }, { ...FRAME, frame: 2, colour_error: 0.5, within: false }, { ...FRAME, frame: 3 }],
}; // prettier-ignore

it("shows the first, the worst and the last frame, says what is wrong, and which file is gone", () => {
  page(PROOF, false);
  expect(screen.getByText("Not as ordered:")).toBeVisible();
  expect(screen.getByText("Frame 2 differs.")).toBeVisible();
  expect(screen.getByText("Frame 2, the least like what was meant")).toBeVisible();
  expect(screen.getAllByRole("img")).toHaveLength(7);
  expect(screen.getByText(/full brightness is an error of 127.500 of 255/)).toBeVisible();
  expect(screen.getByText("00ff")).toBeVisible();
  fireEvent.error(screen.getByAltText("Frame 3, alpha"));
  expect(screen.getByText(/not there any more, or cannot be read: alpha/)).toBeVisible();
});

it("says that no pixel differs, and that there is no proof yet", () => {
  page({ ...PROOF, problems: [], frames: [{ ...FRAME, frame: 2 }] }, true);
  expect(screen.getByText("No pixel of it differs.")).toBeVisible();
  cleanup();
  page(null, false);
  expect(screen.getByText("There is no proof yet")).toBeVisible();
});
