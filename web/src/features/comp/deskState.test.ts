import { describe, expect, it } from "vitest";
import { fromParams, toParams, useDesk } from "./deskState";

describe("the address holds what is looked at", () => {
  it("is read back as it was written", () => {
    const looked = {
      frame: 20,
      layer: "kite",
      look: {
        channel: "alpha",
        background: "colour",
        colour: [1, 0, 0.2],
        exposure: 1.5,
        gamma: 1,
        through: "cg/sRGB - Display|Un-tone-mapped",
      },
      extent: "upto",
      before: true,
      view: { zoom: 6, x: 560.5, y: 330 },
    } as const;
    const text = toParams({
      ...useDesk.getState(),
      ...looked,
      look: { ...looked.look, colour: [1, 0, 0.2] },
    }).toString();
    expect(fromParams(new URLSearchParams(text), 1)).toMatchObject(looked);
  });

  it("falls back to what is usual where the address says nonsense", () => {
    const state = fromParams(new URLSearchParams("frame=x&show=purple&over=moon&extent=all&view=0,a"), 1001);
    expect(state).toMatchObject({
      frame: 1001,
      look: { channel: "colour", background: "checks" },
      extent: "comp",
      view: null,
    });
  });
});
