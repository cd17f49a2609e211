import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, it, vi } from "vitest";
import { askAgain } from "./events";

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
