import { describe, expect, it } from "vitest";
import type { Laid } from "./geometry";
import { arranged, boxOf, intoHolders, outOfHolders, placedBy, snapOf } from "./placing";

const frame = { width: 200, height: 100 };
const place = (row: Partial<Laid> = {}): Laid => ({
  x: 0,
  y: 0,
  scale: 1,
  rotation: 0,
  size: { width: 40, height: 20 },
  ...row,
});

describe("a layer laid by hand", () => {
  it("is moved by whole pixels, so that it is not resampled; finer, and along one axis", () => {
    expect(placedBy(place({ x: 5 }), frame, "whole", [10, 10], [13.4, 7.7])).toEqual({ x: 8, y: -2 });
    expect(placedBy(place(), frame, "whole", [0, 0], [3.44, 9.06], { fine: true })).toEqual({
      x: 3.4,
      y: 9.1,
    });
    expect(placedBy(place(), frame, "whole", [0, 0], [3, 9], { even: true })).toEqual({ x: 0, y: 9 });
  });

  it("is scaled and turned about its centre", () => {
    // the centre is 100, 50: a corner twice as far away
    expect(placedBy(place(), frame, "scale", [120, 60], [140, 70])).toEqual({ scale: 2 });
    expect(placedBy(place(), frame, "scale", [120, 60], [100, 50])).toEqual({ scale: 0.002 });
    expect(placedBy(place(), frame, "rotation", [100, 30], [130, 50])).toEqual({ rotation: 90 });
    expect(placedBy(place({ rotation: 170 }), frame, "rotation", [100, 30], [130, 50])).toEqual({
      rotation: -100,
    });
    expect(placedBy(place(), frame, "rotation", [100, 30], [128, 40], { even: true })).toEqual({
      rotation: 75,
    });
  });

  it("goes through the groups that hold it, there and back", () => {
    const holders = [place({ size: frame, x: 30, scale: 2 }), place({ size: frame, rotation: 90, y: -5 })];
    const inside = intoHolders(holders, frame, [77, 12]);
    const [x, y] = outOfHolders(holders, frame, inside);
    expect(x).toBeCloseTo(77);
    expect(y).toBeCloseTo(12);
    // moved 30 right and doubled about the centre: the frame's centre lies at 130
    expect(intoHolders([holders[0]!], frame, [130, 50])).toEqual([100, 50]);
  });

  it("is drawn to the frame's edges, centre and thirds and to others, within a reach", () => {
    const box = boxOf(place({ x: -78 }), frame);
    expect(box).toEqual([2, 40, 42, 60]);
    expect(snapOf(box, frame, [], 5)).toEqual({ dx: -2, dy: 0, x: 0, y: 50 });
    expect(snapOf(box, frame, [[43, 0, 60, 10]], 5)).toMatchObject({ dx: 1, x: 43 });
    expect(snapOf([20, 20, 30, 28], frame, [], 2)).toEqual({ dx: 0, dy: 0, x: null, y: null });
  });

  it("is fitted, filled, centred and laid against an edge", () => {
    expect(arranged(place(), frame, "fit")).toEqual({ x: 0, y: 0, scale: 5, rotation: 0 });
    const tall = { width: 40, height: 40 };
    expect(arranged(place({ size: tall }), frame, "fit").scale).toBe(2.5);
    expect(arranged(place({ size: tall }), frame, "fill").scale).toBe(5);
    expect(arranged(place({ x: 7, y: 3 }), frame, "left")).toEqual({ x: -80 });
    expect(arranged(place({ x: 7, y: 3 }), frame, "bottom")).toEqual({ y: 40 });
    const turned = place({ rotation: 90 });
    expect(boxOf({ ...turned, ...arranged(turned, frame, "right") }, frame)[2]).toBeCloseTo(200);
  });
});
