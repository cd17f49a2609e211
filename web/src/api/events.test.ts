import { QueryClient, QueryClientProvider, QueryObserver } from "@tanstack/react-query";
import { renderHook } from "@testing-library/react";
import { createElement, type ReactNode } from "react";
import { expect, it, vi } from "vitest";
import { askAgain, useChanges } from "./events";

it("asks again for a first answer that was on its way when something changed", async () => {
  const cache = new QueryClient();
  const answers: ((value: string) => void)[] = [];
  const queryFn = vi.fn(() => new Promise<string>((done) => answers.push(done)));
  const stop = new QueryObserver(cache, { queryKey: ["elements", 1, "pairs"], queryFn }).subscribe(
    () => null,
  );
  expect(queryFn).toHaveBeenCalledTimes(1);
  askAgain(cache, ["elements", 1]);
  askAgain(cache, ["elements", 1]);
  answers[0]!("one pair");
  await vi.waitFor(() => expect(queryFn.mock.calls.length).toBeGreaterThan(1));
  answers.forEach((done) => done("two pairs"));
  await vi.waitFor(() => expect(cache.getQueryData(["elements", 1, "pairs"])).toBe("two pairs"));
  stop();
});

it("asks once for what several changes in a moment were of", () => {
  vi.useFakeTimers();
  const sources: { onmessage?: (event: { data: string }) => void; close: () => void }[] = [];
  vi.stubGlobal(
    "EventSource",
    class {
      close = vi.fn();
      constructor() {
        sources.push(this);
      }
    },
  );
  const cache = new QueryClient();
  const asked = vi.spyOn(cache, "invalidateQueries");
  const wrapper = ({ children }: { children: ReactNode }) =>
    createElement(QueryClientProvider, { client: cache }, children);
  const { unmount } = renderHook(() => useChanges(7), { wrapper });
  for (const kind of ["elements", "elements", "jobs"])
    sources[0]!.onmessage?.({ data: JSON.stringify({ kind, id: 1 }) });
  expect(asked).not.toHaveBeenCalled();
  vi.advanceTimersByTime(1000);
  expect(asked.mock.calls.map(([what]) => what?.queryKey)).toEqual([
    ["elements", 7],
    ["jobs", 7],
  ]);
  sources[0]!.onmessage?.({ data: JSON.stringify({ kind: "comps", id: 1 }) });
  unmount();
  vi.advanceTimersByTime(1000);
  expect(asked).toHaveBeenCalledTimes(2);
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
