import { describe, expect, it } from "vitest";
import { gammaOf, middleOf } from "./LevelsHandles";

describe("the middle handle of levels", () => {
  it("stands where what comes in goes out as one half", () => {
    // t ^ (1 / gamma) = 0.5
    for (const gamma of [0.5, 1, 1.5, 2.2]) {
      const share = (middleOf(0.1, 0.9, gamma) - 0.1) / 0.8;
      expect(share ** (1 / gamma)).toBeCloseTo(0.5);
    }
  });

  it("gives the gamma back", () => {
    expect(gammaOf(0.1, 0.9, middleOf(0.1, 0.9, 1.7))).toBeCloseTo(1.7);
  });

  it("stays within what levels take", () => {
    expect(gammaOf(0, 1, 1)).toBeGreaterThanOrEqual(0.05);
    expect(gammaOf(0, 1, -3)).toBeLessThanOrEqual(20);
  });
});
