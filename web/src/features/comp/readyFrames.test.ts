import { describe, expect, it } from "vitest";
import { nextToFill, setOf } from "./readyFrames";

describe("frames that are filled in", () => {
  it("begins where one is and comes round", () => {
    const ready = new Map<number, boolean>();
    const order = [];
    for (;;) {
      const frame = nextToFill(ready, 4, [2, 6]);
      if (frame === null) break;
      order.push(frame);
      ready.set(frame, true);
    }
    expect(order).toEqual([4, 5, 6, 2, 3]);
  });

  it("is another set when anything but the frame changes", () => {
    const ask = { frame: 1, level: 1, layer: "kite" };
    expect(setOf({ ...ask, frame: 7, quality: "fast" }, "r")).toEqual(setOf(ask, "r"));
    expect(setOf({ ...ask, level: 0 }, "r")).not.toEqual(setOf(ask, "r"));
    expect(setOf(ask, "other readings")).not.toEqual(setOf(ask, "r"));
  });
});
