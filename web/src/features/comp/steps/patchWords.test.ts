import { describe, expect, it } from "vitest";
import { patchInWords, restOf, routeInWords, titleOfOutput, withRoute, type Routes } from "./patchWords";

const plain = { inverted: false, gain: 1, offset: 0 };

describe("a patch", () => {
  it("connects an input by a click and lets go of it by another", () => {
    const one = withRoute({}, "A", "second", "R", "rgb");
    expect(one).toEqual({ A: { source: "second", channel: "R", ...plain } });
    expect(withRoute(one, "A", "second", "R", "rgb")).toEqual({});
  });

  it("keeps inversion and gain when another input is taken", () => {
    const before: Routes = { A: { source: "own", channel: "R", inverted: true, gain: 2, offset: 0 } };
    expect(withRoute(before, "A", "own", "luma", "rgb").A).toEqual({
      source: "own",
      channel: "luma",
      inverted: true,
      gain: 2,
      offset: 0,
    });
  });

  it("takes what an output is by itself for no route at all", () => {
    const before: Routes = { G: { source: "second", channel: "B", ...plain } };
    expect(withRoute(before, "G", "own", "G", "rgb")).toEqual({});
    expect(withRoute({}, "G", "own", "G", "rgb")).toEqual({});
    expect([restOf("G", "hls"), restOf("B", "ycc"), restOf("A", "hls")]).toEqual(["lightness", "cr", "A"]);
  });

  it("says what it does, as the core does", () => {
    const routes: Routes = {
      A: { source: "second", channel: "R", inverted: true, gain: 1, offset: 0 },
      R: { source: "constant", channel: "1", ...plain },
      B: { source: "own", channel: "luma", inverted: false, gain: 2, offset: 0.25 },
    };
    expect(patchInWords(routes, "rgb", "shore mask")).toEqual([
      "red from 1",
      "blue from luma, times 2, plus 0.25",
      "alpha from red of shore mask, inverted",
    ]);
    expect(titleOfOutput("B", "hls")).toBe("saturation");
    expect(routeInWords({ source: "own", channel: "depth.Z", ...plain }, "")).toBe("depth.Z");
  });
});
