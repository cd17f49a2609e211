import { describe, expect, it } from "vitest";
import { nearer, orbited, panned, type Orbit } from "./orbit";

const front: Orbit = {
  azimuth: 0,
  elevation: 0,
  roll: 0,
  distance: 2,
  angle: 90,
  target_x: 0,
  target_y: 0,
  target_z: 0,
};

describe("a camera around its target", () => {
  it("turns against the pointer, and never over the top", () => {
    expect(orbited(front, 100, 0)).toEqual({ azimuth: -35, elevation: 0 });
    expect(orbited({ ...front, elevation: 80 }, 0, 100).elevation).toBe(90);
  });

  it("moves its target so that what is under the pointer follows it", () => {
    // 90 degrees at distance 2: the frame of 400 pixels is 4 units high
    expect(panned(front, 100, 0, 400)).toMatchObject({ target_x: -1, target_y: 0 });
    expect(panned(front, 0, 100, 400)).toMatchObject({ target_x: 0, target_y: 1 });
    const side = panned({ ...front, azimuth: 90 }, 100, 0, 400);
    expect(side.target_z).toBeCloseTo(1);
    const rolled = panned({ ...front, roll: 90 }, 100, 0, 400);
    expect(rolled.target_y).toBeCloseTo(1);
    const above = panned({ ...front, elevation: 90 }, 0, 100, 400);
    expect(above.target_z).toBeCloseTo(-1);
  });

  it("comes nearer and never through", () => {
    expect(nearer(front, 0.5)).toEqual({ distance: 1 });
    expect(nearer({ ...front, distance: 1e-5 }, 0.1)).toEqual({ distance: 1e-5 });
  });
});
