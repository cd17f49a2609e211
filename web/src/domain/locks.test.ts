import { describe, expect, it } from "vitest";
import {
  addLayer,
  changeLayer,
  groupLayers,
  moveInto,
  newDocument,
  removeLayer,
  type CompDocument,
} from "./comp";
import { lockedOrFree, lockedTouched, lockOf } from "./locks";

function three(): CompDocument {
  const empty = newDocument("Dusk", { width: 200, height: 100 }, "25", 48);
  return ["plate", "kite", "caption"].reduce((d, name) => addLayer(d, "e1", name)[0], empty);
}

const ids = (d: CompDocument) => d.layers.map((l) => l.id);

describe("a locked layer", () => {
  const [plate, kite, caption] = ids(three()) as [string, string, string];
  const document = changeLayer(three(), kite, { locked: true });

  it("is touched by what changes it, takes it out or puts it into a group", () => {
    expect(lockedTouched(document, changeLayer(document, kite, { opacity: 0.5 }))).toBe(kite);
    expect(lockedTouched(document, removeLayer(document, kite))).toBe(kite);
    expect(lockedTouched(document, groupLayers(document, [plate, kite])[0])).toBe(kite);
  });

  it("is not touched by what happens to the others, nor by being unlocked", () => {
    expect(lockedTouched(document, changeLayer(document, plate, { opacity: 0.5 }))).toBeNull();
    expect(lockedTouched(document, removeLayer(document, caption))).toBeNull();
    expect(lockedTouched(document, moveInto(document, caption, null, 0))).toBeNull();
    expect(lockedTouched(document, changeLayer(document, kite, { locked: false }))).toBeNull();
    expect(lockedTouched(document, changeLayer(document, kite, { shown: false }))).toBeNull();
  });

  it("locks what a group holds", () => {
    const [grouped, group] = groupLayers(three(), [plate, kite]);
    const locked = changeLayer(grouped, group!, { locked: true });
    // it is the group that is to be unlocked
    expect([plate, kite, caption].map((id) => lockOf(locked, id))).toEqual([group, group, null]);
    expect(lockedTouched(locked, changeLayer(locked, kite, { opacity: 0.5 }))).toBe(group);
  });

  it("is freed with others where all are locked, else all are locked", () => {
    const all = lockedOrFree(document, [plate, kite]);
    expect(all.layers.map((l) => l.locked)).toEqual([true, true, false]);
    expect(lockedOrFree(all, [plate, kite]).layers.map((l) => l.locked)).toEqual([false, false, false]);
  });
});
