import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { MemoryRouter } from "react-router";
import { ApiProblem, type DeliveryOut } from "../../api/client";
import { jobCalls, type JobOut } from "../../api/jobs";
import { DeliveryCard } from "./DeliveryCard";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const JOB: JobOut = {
  id: 7,
  kind: "delivery",
  state: "running",
  cancelling: false,
  written: 3,
  checked: 0,
  count: 12,
  newest: 3,
  seconds_left: 40,
  problem: null,
  person: "ada",
  ordered: "2026-01-01T00:00:00Z",
  ended: null,
};

const PROOF = {
  frames_found: 12,
  frames_meant: 12,
  missing: [],
  rate_found: null,
  rate_meant: null,
  alpha_low: 0,
  alpha_high: 1,
  colour_error: 0.25 / 255,
  alpha_error: 0,
  worst_frame: 5,
  lost_light: 600,
  clipped: 0,
  problems: [],
  hashes: { "dusk.0001.png": "0123456789abcdef" },
};

function card(job: Partial<JobOut>, row: Partial<DeliveryOut> = {}, forms?: number | null) {
  const delivery = {
    id: 1,
    job: { ...JOB, ...job },
    take: { layers: [] as string[] },
    comp_name: "Boardwalk, dusk",
    format_title: "PNG frames, 16-bit, straight",
    first: 1,
    last: 12,
    frames: 12,
    rate: "25",
    folder: "dusk/v1",
    file: "dusk.####.png",
    path: "media/deliveries/1/dusk/v1",
    encoding: "srgb",
    proof: null,
    good: null,
    files: [],
    ...row,
  } as unknown as DeliveryOut;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <ul>
        <MemoryRouter>
          <DeliveryCard row={delivery} project={1} {...(forms === undefined ? {} : { forms })} />
        </MemoryRouter>
      </ul>
    </QueryClientProvider>,
  );
}

const press = (name: string) =>
  act(() => Promise.resolve(fireEvent.click(screen.getByRole("button", { name }))));

it("says how far it is, first of writing and then of the proof", () => {
  card({});
  expect(screen.getByText(/written 3 of 12/)).toHaveTextContent("40 s left");
  expect(screen.getByRole("progressbar", { name: "Delivery of Boardwalk, dusk" })).toBeVisible();
  cleanup();
  card({ state: "finishing", written: 12, checked: 5 });
  expect(screen.getByText(/proved 5 of 12/)).toBeVisible();
  cleanup();
  card({ state: "queued", written: 0, seconds_left: null });
  expect(screen.getByText("waiting its turn")).toBeVisible();
});

it("says who ordered it and how long it took", () => {
  card({});
  expect(screen.getByText(/^ordered by ada, 1 Jan 2026, \d\d:00$/)).toBeVisible();
  cleanup();
  card({ state: "done", person: null, ended: "2026-01-01T00:00:34Z" });
  expect(screen.getByText(/^ordered by somebody who is gone.*, ended after 34 s$/)).toBeVisible();
});

it("is stopped once, and says that it stops", async () => {
  const cancel = vi.spyOn(jobCalls, "cancel").mockResolvedValue({ ...JOB, cancelling: true });
  card({});
  await press("Cancel");
  expect(cancel).toHaveBeenCalledExactlyOnceWith(7);
  cleanup();
  card({ cancelling: true });
  expect(screen.getByRole("button", { name: "Stopping …" })).toBeDisabled();
});

it("is paused and goes on, and is put first while it waits", async () => {
  const calls = (["pause", "hurry", "retry"] as const).map((n) =>
    vi.spyOn(jobCalls, n).mockResolvedValue(JOB),
  );
  card({});
  expect(screen.queryByRole("button", { name: "Put first" })).toBeNull();
  await press("Pause");
  cleanup();
  card({ state: "queued", written: 0, seconds_left: null });
  await press("Put first");
  cleanup();
  card({ state: "paused", seconds_left: null });
  expect(screen.getByText("paused, written 3 of 12")).toBeVisible();
  expect(screen.queryByRole("button", { name: "Pause" })).toBeNull();
  await press("Resume");
  for (const call of calls) expect(call).toHaveBeenCalledExactlyOnceWith(7);
  expect(screen.getByRole("button", { name: "Cancel" })).toBeEnabled();
});

it("goes on after it failed, with the reason in sight", async () => {
  const retry = vi.spyOn(jobCalls, "retry").mockResolvedValue(JOB);
  const problem = {
    code: "disk-full",
    message: "The disk is full.",
    advice: "Free some space and retry.",
    where: "",
  };
  card({ state: "failed", problem });
  expect(screen.getByText("The disk is full.")).toBeVisible();
  expect(screen.queryByRole("button", { name: "Cancel" })).toBeNull();
  await press("Resume");
  expect(retry).toHaveBeenCalledExactlyOnceWith(7);
});

it("says why a button was refused", async () => {
  const refused = { code: "conflict", message: "This delivery is done.", advice: "", where: "" };
  vi.spyOn(jobCalls, "forget").mockRejectedValue(new ApiProblem(409, refused));
  card({ state: "cancelled" });
  await press("Remove from list");
  expect(await screen.findByText("This delivery is done.")).toBeVisible();
});

it("shows its proof, and the files with their hashes on request", async () => {
  card({ state: "done", written: 12, checked: 12 }, {
    proof: PROOF,
    good: true,
    files: ["dusk.0001.png"],
  } as unknown as Partial<DeliveryOut>);
  expect(screen.getByText("proved")).toBeVisible();
  expect(screen.getByText(/0.250 of 255/)).toBeVisible();
  expect(screen.getByText(/600 pixels with light at alpha 0/)).toBeVisible();
  expect(screen.queryByText("dusk.0001.png")).toBeNull();
  await press("1 file with its hash");
  expect(screen.getByRole("link", { name: "dusk.0001.png" })).toHaveAttribute(
    "href",
    "/api/deliveries/1/files/dusk.0001.png",
  );
  expect(screen.getByText("0123456789abcdef")).toBeVisible();
  cleanup();
  card({ state: "done" }, { proof: PROOF, good: false } as unknown as Partial<DeliveryOut>);
  expect(screen.getByText("not as ordered")).toBeVisible();
});

it("shows the job of several forms once", () => {
  card({}, {}, 3);
  expect(screen.getByText(/^3 formats of the same frames/)).toBeTruthy();
  expect(screen.getByRole("button", { name: "Cancel" })).toBeTruthy();
  cleanup();
  card({}, {}, null);
  expect(screen.queryByRole("button", { name: "Cancel" })).toBeNull();
  expect(screen.queryByRole("progressbar")).toBeNull();
  expect(screen.getByText("at work")).toBeTruthy();
});
