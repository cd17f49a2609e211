import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { shifted, valueAt, withKey, withMoved, withoutKey, type Curve, type Key } from "./curve";

const curve = (way: Key["way"], beyond: Curve["beyond"] = "hold"): Curve => ({
  keys: [1, 4, 9, 10, 20].map((frame, i) => ({ frame, value: [0, 2, 1.5, 1.5, -3][i]!, way })),
  beyond,
});

describe("a curve in time", () => {
  it("is the core's: values of SciPy's PchipInterpolator", () => {
    // scipy.interpolate.PchipInterpolator([1, 4, 9, 10, 20], [0, 2, 1.5, 1.5, -3])([2, 3, 6, 8, 15])
    const expected = [0.9425925925925925, 1.6935185185185184, 1.824, 1.552, 0.32386363636363663];
    [2, 3, 6, 8, 15].forEach((f, i) => expect(valueAt(curve("smooth"), f)).toBeCloseTo(expected[i]!, 10));
  });

  it("rests at both keys", () => {
    // scipy.interpolate.CubicHermiteSpline([1, 4], [0, 2], [0, 0])([2, 2.5])
    expect(valueAt(curve("eased"), 2)).toBeCloseTo(0.5185185185185184, 10);
    expect(valueAt(curve("eased"), 2.5)).toBeCloseTo(1, 10);
  });

  it("is straight, or holds", () => {
    expect(valueAt(curve("linear"), 2.5)).toBe(1);
    expect([0, 3.99, 4, 8, 30].map((f) => valueAt(curve("hold"), f))).toEqual([0, 0, 2, 2, -3]);
  });

  it("repeats, or goes there and back", () => {
    expect(valueAt(curve("linear", "loop"), 21)).toBeCloseTo(valueAt(curve("linear"), 2));
    expect(valueAt(curve("linear", "loop"), 0)).toBeCloseTo(valueAt(curve("linear"), 19));
    expect(valueAt(curve("linear", "ping-pong"), 21)).toBeCloseTo(valueAt(curve("linear"), 19));
    expect(valueAt(curve("linear", "ping-pong"), 0)).toBeCloseTo(valueAt(curve("linear"), 2));
  });

  it("takes keys in the order of their frames, and lets go of the last", () => {
    const two = withKey(withKey(undefined, 9, 1), 3, 5);
    expect(two.keys.map((k) => [k.frame, k.value])).toEqual([
      [3, 5],
      [9, 1],
    ]);
    expect(withKey(two, 3, 7).keys[0]).toEqual({ frame: 3, value: 7, way: "smooth" });
    expect(withoutKey(withoutKey(two, 3)!, 9)).toBeUndefined();
  });

  it("never lets a key pass its neighbours", () => {
    expect(withMoved(curve("linear"), 1, 50, 2).keys[1]!.frame).toBe(8);
    expect(withMoved(curve("linear"), 1, -50, 2).keys[1]!.frame).toBe(2);
    expect(shifted(curve("linear"), 3).keys.map((k) => k.frame)).toEqual([4, 7, 12, 13, 23]);
  });
});

interface Kept extends Curve {
  name: string;
  values: [number, number][];
}

describe("the curves that are kept with the core's values", () => {
  const kept = JSON.parse(readFileSync("../tests/data/curves.json", "utf-8")) as Kept[];

  it.each(kept)("$name", ({ values, ...curve }) => {
    for (const [frame, value] of values) expect(valueAt(curve, frame)).toBeCloseTo(value, 8);
  });
});
