import { describe, expect, it } from "vitest";
import { addLayer, newDocument, type CompDocument } from "./comp";
import {
  addPart,
  channelChange,
  EMPTY,
  matteInWords,
  matteOf,
  newChannel,
  newKey,
  proposedChannel,
  newObjects,
  newPaint,
  newShape,
  sourcesOf,
  takes,
  threadsOf,
  withMatte,
  withPart,
} from "./mattes";

function dusk(): CompDocument {
  let document = newDocument("Dusk", { width: 100, height: 50 }, "25", 48);
  for (const name of ["plate", "kite", "caption"]) [document] = addLayer(document, "e1", name);
  return document;
}

const own = (layer: string) => ({ layer, step: null });
const name = (source: string) => source.replace("layer:", "") || "itself";

describe("a matte", () => {
  it("says in words what it keeps", () => {
    const part = newChannel("layer:boards", { channel: "mask.1" });
    const minus = { ...newChannel("layer:boards", { channel: "mask.7" }), combine: "subtract" as const };
    const matte = addPart(addPart(EMPTY, part), minus);
    expect(matteInWords(matte, name)).toBe("mask.1 of boards, subtract mask.7 of boards");
    expect(matteInWords({ ...matte, inverted: true, on: false }, name)).toContain("off: all but mask.1");
    expect(matteInWords(addPart(EMPTY, minus), name)).toBe("all but mask.7 of boards");
    expect(matteInWords(null, name)).toBe("none: all of it is kept");
    expect(matteInWords(withPart(matte, 1, { on: false }), name)).toBe("mask.1 of boards");
  });

  it("says in words what keys, shapes, paint and objects are", () => {
    const parts = [
      newKey(""),
      newShape({ shape: "free", combine: "subtract" }),
      newObjects("layer:boards", "objects", ["post", "board"]),
      { ...newPaint(), strokes: [] },
    ];
    const matte = parts.reduce(addPart, EMPTY);
    expect(matteInWords(matte, name)).toBe(
      "green-screen key of itself, subtract free form, add post and 1 more of boards, paint, 0 strokes",
    );
    expect(matteInWords(addPart(EMPTY, newKey("", { by: "plate", plate: "e7" })), name)).toBe(
      "difference key of itself",
    );
  });

  it("takes the clean plate of a key only where it is used", () => {
    expect(sourcesOf(newKey("", { plate: "layer:layer2" }))).toEqual([""]);
    expect(sourcesOf(newKey("", { plate: "layer:layer2", evenness: "plate" }))).toEqual(["", "layer:layer2"]);
    expect(sourcesOf(newShape())).toEqual([]);
  });

  it("belongs to a layer, and joins two cards by a thread", () => {
    let document = withMatte(dusk(), own("layer1"), (m) => addPart(m, newChannel("layer:layer2")));
    expect(matteOf(document, own("layer1")).parts).toHaveLength(1);
    expect(matteOf(document, own("layer3"))).toBe(EMPTY);
    document = withMatte(document, own("layer1"), (m) =>
      addPart(m, newChannel("layer:layer2", { channel: "luma", inverted: true })),
    );
    expect(threadsOf(document)).toEqual([{ from: "layer2", to: "layer1", words: "alpha; luma, inverted" }]);
    document = withMatte(document, own("layer1"), (m) => ({ ...m, on: false }));
    expect(threadsOf(document)).toEqual([]);
  });

  it("keeps what stands before a card when its difference is taken", () => {
    const part = newChannel("");
    const key = channelChange(part, "green-difference");
    expect(key).toMatchObject({ channel: "green-difference", inverted: true });
    expect(channelChange({ ...part, ...key }, "blue-difference")).toEqual({ channel: "blue-difference" });
    expect(channelChange({ ...part, ...key }, "luma")).toMatchObject({ inverted: false, low: 0, high: 1 });
  });

  it("knows circles before they are made", () => {
    let document = withMatte(dusk(), own("layer1"), (m) => addPart(m, newChannel("layer:layer2")));
    document = withMatte(document, own("layer2"), (m) => addPart(m, newChannel("layer:layer3")));
    expect(takes(document, "layer1", "layer3")).toBe(true);
    expect(takes(document, "layer3", "layer1")).toBe(false);
    expect(takes(document, "layer2", "layer2")).toBe(true);
  });
});

describe("what a matte is proposed to take", () => {
  const used = { has_alpha: true, facts: { alpha_use: "used" } };
  const opaque = { has_alpha: true, facts: { alpha_use: "opaque" } };
  const grey = { has_alpha: false, facts: { alpha_use: "none" } };

  it("is the alpha where there is one, else the luma", () => {
    expect(proposedChannel("e3", used).channel).toBe("alpha");
    expect(proposedChannel("e3", opaque).channel).toBe("luma");
    expect(proposedChannel("e3", grey).channel).toBe("luma");
    expect(proposedChannel("", used).channel).toBe("luma");
  });

  it("takes a layer as it lies in the comp, an element as it is", () => {
    expect(proposedChannel("layer:kite", used).read).toBe("placed");
    expect(proposedChannel("e3", used).read).toBe("steps");
  });

  it("says the frames that it is limited to", () => {
    const part = { ...newChannel(""), first: 3, last: 9 };
    expect(matteInWords(addPart(EMPTY, part), () => "kite")).toBe("alpha of kite, frames 3 to 9");
    expect(matteInWords({ ...addPart(EMPTY, newChannel("")), last: 9 }, () => "kite")).toContain(
      ", to frame 9",
    );
  });
});
