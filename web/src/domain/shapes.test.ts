import { describe, expect, it } from "vitest";
import { intoLayer, outOfLayer } from "./geometry";
import type { Part } from "./parts";
import {
  addPoint,
  isCorner,
  outline,
  pointsOf,
  rounded,
  withoutPoint,
  withPoint,
  type Point,
} from "./shapes";
import { flat, thinned } from "./strokes";

const corner = (x: number, y: number): Point => ({ x, y, before: [0, 0], after: [0, 0] });
const square = (): Part =>
  [corner(-9, -9), corner(9, -9), corner(9, 9), corner(-9, 9)].reduce<Part>(
    (part, p) => ({ ...part, ...addPoint(part, p) }),
    { points: [], keys: {} },
  );
const curve = (value: number) => ({
  beyond: "hold" as const,
  keys: [{ frame: 1, value, way: "linear" as const }],
});

describe("free forms", () => {
  it("hold six numbers a point", () => {
    expect(square()["points"]).toHaveLength(24);
    expect(pointsOf(square(), 1)[2]).toEqual(corner(9, 9));
  });

  it("are moved at a frame where they have curves", () => {
    const keyed = { ...square(), keys: { "points.6": curve(9) } };
    const moved = { ...keyed, ...withPoint(keyed, 1, corner(20, -9), 5) };
    expect(pointsOf(moved, 1)[1]!.x).toBe(9);
    expect(pointsOf(moved, 5)[1]!.x).toBe(20);
    expect(pointsOf(moved, 3)[1]!.x).toBeCloseTo(14.5);
  });

  it("lose a point, and curves of later points move up", () => {
    const keyed = { ...square(), keys: { "points.6": curve(1), "points.12": curve(2), x: curve(3) } };
    const less = { ...keyed, ...withoutPoint(keyed, 1) } as Part;
    expect(pointsOf(less, 1).map((p) => p.y)).toEqual([-9, 9, 9]);
    expect(Object.keys(less.keys)).toEqual(["points.6", "x"]);
    expect(less.keys["points.6"]!.keys[0]!.value).toBe(2);
  });

  it("become round at a corner along the line between its neighbours", () => {
    const points = pointsOf(square(), 1);
    expect(isCorner(points[1]!)).toBe(true);
    expect(rounded(points, 1).after).toEqual([3, 3]);
  });

  it("close as a path", () => {
    const text = outline(pointsOf(square(), 1), (x, y) => [x, y]);
    expect(text.startsWith("M -9.00 -9.00 C")).toBe(true);
    expect(text.endsWith("-9.00 -9.00")).toBe(true);
  });
});

describe("strokes", () => {
  it("keep corners and lose what lies on a line", () => {
    const line = Array.from({ length: 50 }, (_, i): [number, number] => [i, 0]);
    const bent: [number, number][] = [...line, [49, 30]];
    expect(thinned(bent, 0.5)).toEqual([
      [0, 0],
      [49, 0],
      [49, 30],
    ]);
    expect(flat([[1.234, 5]])).toEqual([1.2, 5]);
  });
});

describe("a layer's own pixels", () => {
  it("are found where it lies, and back", () => {
    const [place, frame] = [
      { x: 30, y: -10, scale: 0.5, rotation: 90 },
      { width: 200, height: 100 },
    ];
    const [x, y] = intoLayer(place, frame, [130, 60]);
    expect([x, y].map(Math.round)).toEqual([40, 0]);
    const back = outOfLayer(place, frame, [x, y]);
    expect(back[0]).toBeCloseTo(130);
    expect(back[1]).toBeCloseTo(60);
  });

  it("sit on the comp's pixels where the sizes differ by an odd number", () => {
    // as the core's placing: rest = (200 - 33) // 2 = 83, (100 - 121) // 2 = -11
    const place = { x: 0, y: 0, scale: 1, rotation: 0, size: { width: 33, height: 121 } };
    expect(intoLayer(place, { width: 200, height: 100 }, [83, -11])).toEqual([-16.5, -60.5]);
    expect(outOfLayer(place, { width: 200, height: 100 }, [-16.5, -60.5])).toEqual([83, -11]);
  });
});
