import { expect, it } from "vitest";
import { colourIn } from "./PickOver";

const of = (R: number, G: number, B: number, A: number) =>
  Object.fromEntries(Object.entries({ R, G, B, A }).map(([name, mean]) => [name, { mean }]));

it("is the colour of what covers the box, not what is left of it where it covers half", () => {
  expect(colourIn(of(0.2, 0.1, 0.05, 0.5))).toEqual([0.4, 0.2, 0.1]);
  expect(colourIn(of(0.18, 0.18, 0.18, 1))).toEqual([0.18, 0.18, 0.18]);
  expect(colourIn(of(0, 0, 0, 0))).toBeNull();
});
