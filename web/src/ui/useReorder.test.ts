import { describe, expect, it } from "vitest";
import { moved, placeAt } from "./useReorder";

describe("a row put elsewhere", () => {
  it("drops between the rows it was let go of", () => {
    const middles = [10, 30, 50, 70];
    expect([0, 29, 31, 69, 99].map((y) => placeAt(middles, 0, y))).toEqual([0, 0, 1, 2, 3]);
    expect([0, 29, 51].map((y) => placeAt(middles, 3, y))).toEqual([0, 1, 3]);
  });

  it("keeps the others in order", () => {
    expect(moved(["a", "b", "c", "d"], 3, 0)).toEqual(["d", "a", "b", "c"]);
    expect(moved(["a", "b", "c"], 0, 2)).toEqual(["b", "c", "a"]);
  });
});
