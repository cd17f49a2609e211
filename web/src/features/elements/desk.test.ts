import { describe, expect, it } from "vitest";
import type { ElementOut } from "../../api/client";
import { passesOf, rangeInWords } from "./channels";
import { doubted } from "../../domain/attention";
import { boundsOfRows, oddOnes } from "../../parts/FlickerPlot";
import { boundsOf, pointsOf } from "../../parts/plots";
import { patternOf } from "./ReadingRules";

const channel = (name: string, data = false) => ({ name, data, sample: "half", low: null, high: null });

function element(part: Partial<Record<keyof ElementOut, unknown>>): ElementOut {
  const straight = { alpha: "straight", matte: [0, 0, 0], inverted: false, multiplied: "linear" };
  return { facts: null, parts: [], kinds: {}, reading: straight, ...part } as unknown as ElementOut;
}

describe("what can be shown of an element", () => {
  const facts = {
    channels: ["R", "G", "B", "A", "diffuse.B", "diffuse.G", "diffuse.R"]
      .map((n) => channel(n))
      .concat(channel("depth.Z", true)),
  };

  it("offers the picture, whole passes in their order, and every channel", () => {
    const passes = passesOf(element({ facts }));
    expect(passes[0]?.planes).toBeNull();
    expect(passes.find((p) => p.label === "diffuse")?.planes).toEqual([
      "diffuse.R",
      "diffuse.G",
      "diffuse.B",
    ]);
    expect(passes.find((p) => p.label === "depth.Z")).toMatchObject({ planes: ["depth.Z"], data: true });
    expect(passes.some((p) => p.label === "depth")).toBe(false);
  });

  it("takes a person's word for what is data", () => {
    const passes = passesOf(element({ facts, kinds: { "depth.Z": "colour", R: "data" } }));
    expect(passes.find((p) => p.label === "depth.Z")?.data).toBe(false);
    expect(passes.find((p) => p.label === "R")?.data).toBe(true);
  });

  it("says whether a channel is empty, constant or used", () => {
    expect(rangeInWords(0, 0)).toBe("empty");
    expect(rangeInWords(1, 1)).toBe("1 everywhere");
    expect(rangeInWords(-2.5, 900.123456)).toBe("-2.5 to 900.1");
    expect(rangeInWords(null, null)).toBe("");
  });
});

describe("a reading in doubt", () => {
  const said = { alpha: "premultiplied", matte: [0, 1, 0], inverted: false, multiplied: "encoded" };
  const suggestion = { reading: said, sure: true };

  it("is said only where the pixels are sure and nobody has chosen", () => {
    expect(doubted(element({ suggestion, reading_set: false }))).toBe(true);
    expect(doubted(element({ suggestion, reading_set: true }))).toBe(false);
    expect(doubted(element({ suggestion: { ...suggestion, sure: false }, reading_set: false }))).toBe(false);
    expect(doubted(element({ suggestion, reading_set: false, reading: said }))).toBe(false);
  });

  it("lets a matte colour be off by what nobody sees", () => {
    const near = { ...said, matte: [0.01, 0.99, 0] };
    expect(doubted(element({ suggestion, reading_set: false, reading: near }))).toBe(false);
  });
});

describe("a bad frame", () => {
  const frame = (luma: number) => ({ mean: { luma, A: 0.5 }, spread: {} });

  it("stands out from both neighbours", () => {
    const rows = [0.2, 0.21, 0.22, 0.6, 0.24, 0.25].map(frame);
    expect(oddOnes(rows)).toEqual([3]);
  });

  it("is not a fade, nor a cut", () => {
    expect(oddOnes([0, 0.2, 0.4, 0.6, 0.8].map(frame))).toEqual([]);
    expect(oddOnes([0.1, 0.1, 0.9, 0.9, 0.9].map(frame))).toEqual([]);
  });

  it("is one that cannot be measured", () => {
    expect(oddOnes([frame(0.2), null, frame(0.2)])).toEqual([1]);
  });
});

it("finds the name that frames of a kind share", () => {
  expect(patternOf("caption_strap.####.png")).toBe("caption_strap*");
  expect(patternOf("kite_v04_beauty.####.exr")).toBe("kite_v*");
  expect(patternOf("paper_kite.mov")).toBe("paper_kite*");
});

it("plots within bounds that hold 0 to 1 and what lies beyond", () => {
  expect(boundsOf([[0.2, 0.4]])).toEqual([0, 1]);
  expect(boundsOf([[-0.5, 3]])).toEqual([-0.5, 3]);
  expect(pointsOf([0, 1], 0, 1)).toBe("0.0,100.00 1000.0,0.00");
});

it("a flicker of a hundredth fills the plot, though the alpha is 1 throughout", () => {
  const frame = (v: number) => ({ mean: { R: v, G: v, B: v, luma: v, A: 1 }, spread: {} });
  const [low, high] = boundsOfRows([0.1, 0.11, 0.1].map(frame), "mean");
  expect(low).toBeGreaterThan(0.09);
  expect(high).toBeLessThan(0.12);
});
