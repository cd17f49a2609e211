import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ApiProblem } from "../api/client";
import * as pictures from "../api/pictures";
import { usePicture, type Asked } from "./usePicture";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

/** A server that answers only when told to. */
function server() {
  const open: {
    ask: pictures.Ask;
    signal: AbortSignal;
    answer: () => void;
    refuse: (code: string) => void;
  }[] = [];
  vi.spyOn(pictures, "fetchPicture").mockImplementation(
    (_, ask, signal) =>
      new Promise((resolve, reject) =>
        open.push({
          ask,
          signal,
          answer: () =>
            resolve({
              image: {} as ImageBitmap,
              region: [0, 0, 1, 1],
              frame: [1, 1],
              milliseconds: ask.frame ?? 0,
              problems: [],
            }),
          refuse: (code) => reject(new ApiProblem(422, { code, message: code, advice: "", where: "" })),
        }),
      ),
  );
  return open;
}

/** Let the server speak, and the page take it in. */
const settle = (speak: () => void) =>
  act(() => {
    speak();
    return Promise.resolve();
  });

const asked = (frame: number): Asked => ({ address: "/picture", ask: { frame } });

describe("the newest wanted picture", () => {
  it("drops what was wanted in between while one is under way", async () => {
    const open = server();
    const hook = renderHook(({ frame }) => usePicture(asked(frame), "test"), { initialProps: { frame: 1 } });
    for (const frame of [2, 3, 4]) hook.rerender({ frame });
    expect(open.map((o) => o.ask.frame)).toEqual([1]);
    await settle(() => open[0]!.answer());
    await waitFor(() => expect(open.map((o) => o.ask.frame)).toEqual([1, 4]));
    await settle(() => open[1]!.answer());
    await waitFor(() =>
      expect(hook.result.current).toMatchObject({ busy: false, drawn: { milliseconds: 4 } }),
    );
  });

  it("does not wait for one that nobody waits for, nor ask it away again", async () => {
    const open = server();
    const hook = renderHook(({ frame }) => usePicture(asked(frame), "test"), { initialProps: { frame: 1 } });
    await settle(() => open[0]!.answer());
    act(() => hook.result.current.want({ ...asked(10), yields: true }));
    hook.rerender({ frame: 1 });
    expect(open.map((o) => o.ask.frame)).toEqual([1, 10]);
    expect(open[1]!.signal.aborted).toBe(false);
    hook.rerender({ frame: 2 });
    expect(open[1]!.signal.aborted).toBe(true);
    await settle(() => open[1]!.refuse("cancelled"));
    await waitFor(() => expect(open.map((o) => o.ask.frame)).toEqual([1, 10, 2]));
    expect(hook.result.current.problem).toBeNull();
  });

  it("keeps the last picture on the screen beside what went wrong, and is mended by the next", async () => {
    const open = server();
    const hook = renderHook(({ frame }) => usePicture(asked(frame), "test"), { initialProps: { frame: 1 } });
    await settle(() => open[0]!.answer());
    hook.rerender({ frame: 2 });
    await settle(() => open[1]!.refuse("frame-missing"));
    await waitFor(() => expect(hook.result.current.problem?.code).toBe("frame-missing"));
    expect(hook.result.current.drawn?.milliseconds).toBe(1);
    hook.rerender({ frame: 3 });
    await settle(() => open[2]!.answer());
    await waitFor(() => expect(hook.result.current.problem).toBeNull());
  });

  it("says nothing of a request that a newer one ended", async () => {
    const open = server();
    const hook = renderHook(() => usePicture(asked(1), "test"));
    await settle(() => open[0]!.refuse("cancelled"));
    await waitFor(() => expect(hook.result.current.busy).toBe(false));
    expect(hook.result.current.problem).toBeNull();
  });

  it("asks again when something else that it depends on has changed", async () => {
    const open = server();
    const hook = renderHook(({ stamp }) => usePicture({ ...asked(1), stamp }, "test"), {
      initialProps: { stamp: "straight" },
    });
    await settle(() => open[0]!.answer());
    hook.rerender({ stamp: "premultiplied" });
    await waitFor(() => expect(open).toHaveLength(2));
  });
});
