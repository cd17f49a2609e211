import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { endedSince, TellMe } from "./telling";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  window.localStorage.clear();
});

const row = (id: number, state: string, good: boolean | null = null) => ({
  id,
  comp_name: `comp ${id}`,
  good,
  job: { state },
});

describe("being told of deliveries", () => {
  it("is of those that have ended since, with how, and of no other", () => {
    const before = new Map([
      [1, "running"],
      [2, "queued"],
      [3, "running"],
      [4, "done"],
      [5, "running"],
    ]);
    const rows = [
      row(1, "done", true),
      row(2, "done", false),
      row(3, "failed"),
      row(4, "done", true),
      row(5, "cancelled"),
      row(6, "done", true),
    ];
    expect(endedSince(before, rows)).toEqual([
      { id: 1, title: "comp 1", how: "Delivered and proved" },
      { id: 2, title: "comp 2", how: "Delivered, but not proved" },
      { id: 3, title: "comp 3", how: "Failed" },
    ]);
  });

  it("is asked of the browser once it is wanted, and says so where it refuses", async () => {
    const requestPermission = vi.fn(() => Promise.resolve("denied"));
    vi.stubGlobal("Notification", { requestPermission, permission: "default" });
    render(<TellMe />);
    await act(() => Promise.resolve(fireEvent.click(screen.getByRole("checkbox"))));
    expect(requestPermission).toHaveBeenCalledOnce();
    expect(screen.getByRole("checkbox")).not.toBeChecked();
    expect(screen.getByRole("note")).toBeInTheDocument();
    requestPermission.mockResolvedValue("granted");
    await act(() => Promise.resolve(fireEvent.click(screen.getByRole("checkbox"))));
    expect(screen.getByRole("checkbox")).toBeChecked();
    expect(screen.queryByRole("note")).toBeNull();
  });
});
