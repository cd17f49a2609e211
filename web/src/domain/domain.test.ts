import { duplicateLayer } from "./clipboard";
import { codeOfLight, lightOfCode } from "./light";
import { describe, expect, it } from "vitest";
import {
  addLayer,
  changePlace,
  changeStep,
  groupLayers,
  layerOf,
  moveInto,
  type Group,
  ungroup,
  lifeOf,
  newDocument,
  removeLayer,
} from "./comp";
import type { Layer } from "./comp";
import { placeOf, slotsOf } from "./tree";
import {
  fitView,
  intoLayer,
  levelFor,
  outOfLayer,
  toComp,
  toScreen,
  visibleRegion,
  zoomAt,
} from "./geometry";
import { clampFrame, frameAt, frozenFrame, ownFrames, restingFrame, shortfallInWords } from "./time";
import {
  agoInWords,
  bytesInWords,
  colourOf,
  differencesInWords,
  hexOf,
  rateInWords,
  readingInWords,
  secondsInWords,
} from "./words";

function pile(...names: string[]) {
  return names.reduce(
    (d, n) => addLayer(d, "e1", n)[0],
    newDocument("dusk", { width: 1920, height: 1080 }, "25", 48),
  );
}

const names = (d: ReturnType<typeof pile>) => d.layers.map((l) => l.name).join(" ");

describe("edits of the document", () => {
  it("adds new layers nearest to the lens, with names of their own", () => {
    expect(names(pile("plate", "kite", "kite"))).toBe("plate kite kite 2");
  });

  it("moves a layer to a place in the pile and leaves the old document alone", () => {
    const before = pile("plate", "kite", "lantern");
    const after = moveInto(before, before.layers[2]!.id, null, 1);
    expect(names(after)).toBe("plate lantern kite");
    expect(names(before)).toBe("plate kite lantern");
    expect(names(moveInto(before, before.layers[0]!.id, null, 99))).toBe("kite lantern plate");
  });

  it("duplicates beside the original and never reuses an id", () => {
    const start = pile("plate", "kite");
    const [twice] = duplicateLayer(changePlace(start, "layer1", { x: 7 }), "layer1");
    expect(names(twice)).toBe("plate plate 2 kite");
    expect(twice.layers[1]!.transform.x).toBe(7);
    expect(new Set(twice.layers.map((l) => l.id)).size).toBe(3);
    const [again, id] = addLayer(removeLayer(twice, "layer2"), "e1", "x");
    expect(again.layers.filter((l) => l.id === id)).toHaveLength(1);
  });

  it("changes one step only", () => {
    const start = pile("plate");
    start.layers[0]!.steps = [
      { kind: "levels", gamma: 1 },
      { kind: "levels", gamma: 2 },
    ] as never;
    const steps = changeStep(start, "layer1", 1, { gamma: 3 }).layers[0]!.steps as { gamma: number }[];
    expect(steps.map((s) => s.gamma)).toEqual([1, 3]);
  });

  it("lives as long as the comp unless told otherwise", () => {
    const d = pile("plate");
    expect(lifeOf(d, d.layers[0]!)).toEqual([1, 48]);
    expect(lifeOf(d, { ...d.layers[0]!, first: 9 })).toEqual([9, 48]);
  });
});

describe("groups in the document", () => {
  const tree = (layers: readonly Layer[]): unknown[] =>
    layers.map((l) => (l.kind === "group" ? tree(l.layers) : l.name));

  it("are made of any selection, where the nearest of it lies", () => {
    const [d, id] = groupLayers(pile("a", "b", "c", "d"), ["layer3", "layer1"]);
    expect(tree(d.layers)).toEqual(["b", ["a", "c"], "d"]);
    expect(tree(ungroup(d, id!).layers)).toEqual(["b", "a", "c", "d"]);
  });

  it("hold a chosen group once, with its members in it", () => {
    const [d, inner] = groupLayers(pile("a", "b", "c"), ["layer1", "layer2"]);
    const [outer] = groupLayers(d, [inner!, "layer2", "layer3"]);
    expect(tree(outer.layers)).toEqual([[["a", "b"], "c"]]);
    expect(groupLayers(d, [])[1]).toBeNull();
  });

  it("do not go into themselves", () => {
    const [d, inner] = groupLayers(pile("a", "b"), ["layer1"]);
    const [outer, id] = groupLayers(d, [inner!]);
    expect(moveInto(outer, id!, inner, 0)).toBe(outer);
    expect(tree(moveInto(outer, "layer2", inner, 0).layers)).toEqual([[["b", "a"]]]);
  });

  it("are duplicated with members of their own, which name each other", () => {
    const [d, id] = groupLayers(pile("a", "b"), ["layer1", "layer2"]);
    const group = layerOf(d, id) as Group;
    group.alpha = { by: "member", member: "layer2", matte: null };
    group.layers[0]!.steps = [{ kind: "combine", second: "layer:layer2" }] as never;
    const [twice, copy] = duplicateLayer(d, id!);
    const made = layerOf(twice, copy) as Group;
    expect(twice.layers).toHaveLength(2);
    expect(made.alpha.member).toBe(made.layers[1]!.id);
    expect(made.layers[0]!.steps[0]).toMatchObject({ second: `layer:${made.layers[1]!.id}` });
    const ids = twice.layers.flatMap((g) => [g.id, ...(g as Group).layers.map((l) => l.id)]);
    expect(new Set(ids).size).toBe(6);
  });

  it("let a card be put before, into and behind them", () => {
    const [d, id] = groupLayers(pile("a", "b", "c"), ["layer1", "layer2"]);
    const slots = slotsOf<Layer>(d.layers, [id!]);
    expect(slots.map((s) => s.kind)).toEqual(["opens", "card", "card", "closes", "card"]);
    const ends = [0, 1, 2, 3, 4].map((to) => placeOf(slots, 4, to));
    expect(ends).toEqual([
      { group: null, to: 0 },
      { group: id, to: 0 },
      { group: id, to: 1 },
      { group: id, to: 2 },
      { group: null, to: 1 },
    ]);
  });
});

describe("the viewer's geometry", () => {
  const frame = { width: 1920, height: 1080 };
  const room = { width: 940, height: 470 };

  it("fits the whole frame and asks for the level nearest below the screen's pixels", () => {
    const view = fitView(frame, room);
    expect(view.zoom).toBeCloseTo(470 / 1080);
    expect(levelFor(view.zoom)).toBe(1);
    expect([levelFor(1), levelFor(4), levelFor(0.5), levelFor(0.49), levelFor(0.25)]).toEqual([
      0, 0, 1, 1, 2,
    ]);
    expect(visibleRegion(view, room, frame, 1)).toBeNull();
  });

  it("keeps the point under the pointer when zooming", () => {
    const view = fitView(frame, room);
    const before = toComp(view, room, 100, 50);
    const zoomed = zoomAt(view, room, 100, 50, 6);
    const after = toComp(zoomed, room, 100, 50);
    expect(after[0]).toBeCloseTo(before[0]);
    expect(after[1]).toBeCloseTo(before[1]);
    expect(toScreen(zoomed, room, ...after)[0]).toBeCloseTo(100);
  });

  it("asks for no more than what is seen, in whole blocks", () => {
    const region = visibleRegion({ zoom: 8, x: 960, y: 540 }, room, frame, 0)!;
    expect(region).toEqual([832, 448, 1088, 640]);
  });
});

describe("time", () => {
  it("plays at the rate, loops or ends", () => {
    expect(frameAt(1, 0.99, 25, 1, 48, "loop")).toBe(25);
    expect(frameAt(40, 1, 25, 1, 48, "loop")).toBe(17);
    expect(frameAt(40, 1, 25, 1, 48, "off")).toBeNull();
    expect([0, 1, 2, 3, 4, 5, 6].map((s) => frameAt(1, s, 1, 1, 4, "ping-pong"))).toEqual([
      1, 2, 3, 4, 3, 2, 1,
    ]);
    expect(clampFrame(99.4, 1, 48)).toBe(48);
  });
});

describe("the frame that stands for an element", () => {
  it("is the middle one, or the nearest that is there", () => {
    expect(restingFrame({ first: 1, last: 5, missing: [] })).toBe(3);
    expect(restingFrame({ first: 1, last: 5, missing: [3, 4] })).toBe(2);
    expect(restingFrame({ first: 7, last: 7, missing: [] })).toBe(7);
  });
});

describe("words", () => {
  it("tell how long ago something was, in the largest whole unit", () => {
    const now = Date.parse("2026-11-29T12:00:00Z");
    const told = (seconds: number) => agoInWords(new Date(now - seconds * 1000).toISOString(), now);
    expect([-5, 0, 59].map(told)).toEqual(["just now", "just now", "just now"]);
    expect([60, 3599, 3600, 86_399].map(told)).toEqual([
      "1 minute ago",
      "59 minutes ago",
      "1 hour ago",
      "23 hours ago",
    ]);
    expect([86_400, 13 * 86_400, 40 * 86_400, 800 * 86_400].map(told)).toEqual([
      "1 day ago",
      "1 week ago",
      "1 month ago",
      "2 years ago",
    ]);
  });

  it("says sizes, times and rates", () => {
    expect([bytesInWords(999), bytesInWords(1500), bytesInWords(3e9)]).toEqual([
      "999 bytes",
      "1.5 kB",
      "3.0 GB",
    ]);
    expect([secondsInWords(0.2), secondsInWords(61), secondsInWords(600)]).toEqual([
      "less than 1 s",
      "61 s",
      "10 min",
    ]);
    expect(rateInWords("24000/1001")).toBe("24000/1001 (23.976) fps");
    expect(rateInWords("25")).toBe("25 fps");
  });

  it("reads and writes colours as code values", () => {
    expect(hexOf([0, 1, 0.5])).toBe("#00ff80");
    expect(colourOf("#00ff80")).toEqual([0, 1, 128 / 255]);
    expect(colourOf("teal")).toBeNull();
  });

  it("says a reading as the cards do", () => {
    const over = {
      alpha: "premultiplied",
      matte: [1, 1, 1],
      inverted: true,
      multiplied: "encoded",
    } as const;
    expect(readingInWords({ ...over, matte: [1, 1, 1] })).toBe(
      "premultiplied over white in encoded values, alpha inverted",
    );
  });
});

describe("light and code values", () => {
  it("go both ways, by the values of IEC 61966-2-1", () => {
    expect(lightOfCode([0.5, 0.04045, 1])[0]).toBeCloseTo(0.21404114, 6);
    expect(codeOfLight(lightOfCode([0.02, 0.5, 0.9]))).toEqual([
      expect.closeTo(0.02, 9),
      expect.closeTo(0.5, 9),
      expect.closeTo(0.9, 9),
    ]);
  });
});

describe("an element of another length than the comp", () => {
  const comp = { first: 1, rate: "25" };
  const layer = { offset: 0, speed: 1 };

  it("has frames of its own as far as the core shows them", () => {
    // element_frame of the core: frame 101 + floor((n - 1) * 2) for 50 a second in a comp of 25
    const clip = { kind: "sequence", first: 101, last: 200 };
    expect(ownFrames(comp, layer, clip, "50")).toEqual([1, 50]);
    expect(ownFrames(comp, { offset: 5, speed: 1 }, clip, "25")).toEqual([6, 105]);
    expect(ownFrames(comp, { offset: 0, speed: 0.5 }, clip, null)).toEqual([1, 200]);
    // 24 in 25: 3 frames begin at 0, 1.04, 2.08 and the last ends before 3.125
    expect(ownFrames(comp, layer, { kind: "movie", first: 0, last: 2 }, "24")).toEqual([1, 4]);
    expect(ownFrames(comp, layer, { kind: "still", first: 1, last: 1 }, null)).toBeNull();
  });

  it("freezes what it shows", () => {
    const clip = { kind: "sequence", first: 101, last: 200 };
    const still = (how: object, frame: number, rate: string | null = "25") =>
      frozenFrame(comp, { offset: 0, speed: 1, ...how }, clip, rate, frame);
    expect(still({}, 9)).toBe(109);
    expect(still({ speed: 0.5 }, 4)).toBe(102);
    expect(still({}, 3, "50")).toBe(105);
    expect(still({ offset: 5 }, 3)).toBe(106);
    expect(still({ offset: 2 }, 500)).toBe(202);
  });

  it("is told where the layer lives longer", () => {
    expect(shortfallInWords([1, 12], [1, 48], "hold")).toBe(
      "Its element lasts from frame 1 to 12; the nearest is held beyond.",
    );
    expect(shortfallInWords([1, 48], [1, 48], "hold")).toBe("");
    expect(shortfallInWords(null, [1, 48], "hold")).toBe("");
  });

  it("is compared with the one it would replace", () => {
    const older = {
      kind: "sequence",
      width: 1920,
      height: 1080,
      first: 1,
      last: 48,
      rate: "25",
      alpha: true,
    };
    const newer = { ...older, width: 1280, height: 720, last: 12, alpha: false };
    expect(differencesInWords(older as never, newer as never)).toEqual([
      "1280 × 720 pixels instead of 1920 × 1080",
      "12 frames instead of 48",
      "no alpha instead of an alpha",
    ]);
    expect(differencesInWords(older as never, older as never)).toEqual([]);
  });
});

describe("A layer that stands in a scene", () => {
  const frame = { width: 200, height: 100 };
  const matrix = [1.2, 0.1, 20, -0.2, 0.9, 14, 0.001, -0.0005, 1];
  const place = { x: 0, y: 0, scale: 1, rotation: 0, size: { width: 80, height: 60 }, matrix };

  it("is seen where its matrix says, and its points are found again", () => {
    // its upper left corner, by hand
    expect(outOfLayer(place, frame, [-40, -30])).toEqual([20, 14]);
    for (const point of [
      [-40, -30],
      [12, 7],
      [40, 30],
    ] as [number, number][]) {
      const [x, y] = intoLayer(place, frame, outOfLayer(place, frame, point));
      expect(x).toBeCloseTo(point[0], 9);
      expect(y).toBeCloseTo(point[1], 9);
    }
  });
});
