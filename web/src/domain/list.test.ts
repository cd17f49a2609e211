import { expect, test } from "vitest";
import { changeSteps, removeLayer, type CompDocument, type Layer, type Step } from "./comp";
import { addSlot, columnsOf, freeName, removeSlot, renameSlot, rowsIn, withCell } from "./list";

const step = (kind: string) => ({ kind, on: true }) as unknown as Step;

const document = (): CompDocument =>
  ({
    slots: [
      { name: "art", layer: "a", step: null, field: "element" },
      { name: "light", layer: "a", step: 1, field: "stops" },
      { name: "art", layer: "b", step: null, field: "element" },
    ],
    rows: [{ art: "dusk.png", light: "1" }, { art: "dawn.png" }],
    layers: [
      { id: "a", kind: "element", steps: [step("blur"), step("exposure")] },
      { id: "b", kind: "element", steps: [] },
    ] as unknown as Layer[],
  }) as unknown as CompDocument;

test("columns are the names of the slots, each once", () => {
  expect(columnsOf(document())).toEqual(["art", "light"]);
  expect(freeName(document(), "art")).toBe("art 2");
  expect(freeName(document(), "été (2)")).toBe("t 2");
});

test("a slot that is taken out takes its column with it, unless another has it", () => {
  const without = removeSlot(document(), 1);
  expect(without.rows).toEqual([{ art: "dusk.png" }, { art: "dawn.png" }]);
  expect(removeSlot(document(), 0).rows).toEqual(document().rows);
});

test("a new name goes along in the rows", () => {
  expect(renameSlot(document(), 1, "stops").rows[0]).toEqual({ art: "dusk.png", stops: "1" });
  expect(renameSlot(document(), 2, "back").rows[0]).toEqual({
    art: "dusk.png",
    light: "1",
    back: "dusk.png",
  });
});

test("a cell and a slot are added", () => {
  expect(withCell(document(), 1, "light", "2").rows[1]).toEqual({ art: "dawn.png", light: "2" });
  expect(addSlot(document(), { name: "x", layer: "b", step: null, field: "element" }).slots).toHaveLength(4);
});

test("slots follow their steps and go with their layers", () => {
  const order = changeSteps(document(), "a", (s) => [...s].reverse());
  expect(order.slots[1]?.step).toBe(0);
  const gone = changeSteps(document(), "a", (s) => s.slice(0, 1));
  expect(columnsOf(gone)).toEqual(["art"]);
  const changed = changeSteps(document(), "a", (s) => s.map((x) => ({ ...x })));
  expect(changed.slots[1]?.step).toBe(1);
  expect(removeLayer(document(), "a").slots.map((s) => s.layer)).toEqual(["b"]);
});

test("rows are chosen by numbers and ranges", () => {
  expect(rowsIn("1-3, 5", 6)).toEqual([1, 2, 3, 5]);
  expect(rowsIn("2", 2)).toEqual([2]);
  for (const wrong of ["", "0", "3-1", "7", "1;2", "a"]) expect(rowsIn(wrong, 6)).toBeNull();
});
