import { expect, it } from "vitest";
import type { ElementOut } from "../api/client";
import { EVERYTHING, labelsOf, searched, type Search } from "./elementSearch";

const element = (id: number, name: string, more: object = {}): ElementOut =>
  ({
    id,
    name,
    folder: "marsh",
    state: "ready",
    holds: "",
    has_alpha: false,
    reading_set: true,
    facts: { kind: "still", missing: [], bytes: id * 100 },
    ...more,
  }) as unknown as ElementOut;

const ROWS = [
  element(1, "kite_10.png"),
  element(2, "Kite_9.png", { has_alpha: true }),
  element(3, "lantern.####.exr", { facts: { kind: "sequence", missing: [4], bytes: 50 } }),
  element(4, "lantern_depth.exr", { holds: "depth" }),
];

const ids = (search: Partial<Search>) => searched(ROWS, { ...EVERYTHING, ...search }).map((e) => e.id);

it("finds by all words, of the name or the folder, in any order and case", () => {
  expect(ids({})).toEqual([1, 2, 3, 4]);
  expect(ids({ words: "KITE" })).toEqual([1, 2]);
  expect(ids({ words: "depth lan" })).toEqual([4]);
  expect(ids({ words: " marsh  kite 9 " })).toEqual([2]);
  expect(ids({ words: "reed" })).toEqual([]);
});

it("keeps those of a kind", () => {
  expect(ids({ kind: "still" })).toEqual([1, 2, 4]);
  expect(ids({ kind: "sequence" })).toEqual([3]);
  expect(ids({ kind: "alpha" })).toEqual([2]);
  expect(ids({ kind: "data" })).toEqual([4]);
  expect(ids({ kind: "attention" })).toEqual([3]);
  expect(ids({ kind: "still", words: "lantern" })).toEqual([4]);
  expect(ids({ kind: "unused" })).toEqual([]);
  const unused = searched(ROWS, { ...EVERYTHING, kind: "unused", words: "kite" }, new Set([2, 3]));
  expect(unused.map((e) => e.id)).toEqual([2]);
});

it("orders them, numbers as numbers, and leaves the list itself as it was", () => {
  expect(ids({ order: "name" })).toEqual([2, 1, 4, 3]);
  expect(ids({ order: "newest" })).toEqual([4, 3, 2, 1]);
  expect(ids({ order: "large" })).toEqual([4, 2, 1, 3]);
  expect(ROWS.map((e) => e.id)).toEqual([1, 2, 3, 4]);
});

it("finds by label, which counts as a word too, and lists labels by name", () => {
  const rows = [
    { id: 1, name: "kite.mov", folder: "", label: "skies" },
    { id: 2, name: "reeds.exr", folder: "", label: "" },
    { id: 3, name: "dawn.png", folder: "", label: "skies" },
    { id: 4, name: "strap.png", folder: "", label: "Captions" },
  ] as ElementOut[];
  const ids = (search: Partial<Search>) => searched(rows, { ...EVERYTHING, ...search }).map((e) => e.id);
  expect(ids({ label: "skies" })).toEqual([1, 3]);
  expect(ids({ label: "" })).toEqual([2]);
  expect(ids({ words: "skies dawn" })).toEqual([3]);
  expect(labelsOf(rows)).toEqual([
    ["Captions", 1],
    ["skies", 2],
  ]);
});
