import { describe, expect, it } from "vitest";
import type { Step } from "../../../domain/comp";
import { curvePath, withPoint } from "./CurveField";
import { footingOf, newStep, ownFields, stepInWords, type StepTable } from "./table";
import { actsWhereInWords } from "./ActsWhere";

const table = {
  kind: "blur",
  title: "Blur",
  help: "",
  family: "edges",
  fresh: { size: 2 },
  fields: {
    kind: { default: "blur" },
    on: { type: "boolean", default: true },
    mix: { default: 1 },
    keys: { default: {} },
    through: { default: { by: "everywhere", inverted: false, channel: "alpha" } },
    channels: { default: "rgba", unit: "channels" },
    on_straight: { type: "boolean", default: false, unit: "footing" },
    size: { title: "size", type: "number", default: 4 },
    form: { title: "form", enum: ["gaussian", "disc"], labels: { disc: "Disc" }, default: "gaussian" },
    path: { default: [], unit: "made" },
  },
} as unknown as StepTable;

describe("what a step says of itself", () => {
  it("starts from its defaults and what a fresh one has besides", () => {
    expect(newStep(table)).toMatchObject({ kind: "blur", size: 2, form: "gaussian", mix: 1, on: true });
  });

  it("looks at the plate where it looks at what lies behind", () => {
    const wrap = {
      ...table,
      fields: { second: { default: "" }, fit: { default: "placed" } },
    } as unknown as StepTable;
    expect(newStep(wrap, "plate")).toMatchObject({ second: "layer:plate", fit: "placed" });
    expect(newStep(wrap)).toMatchObject({ second: "" });
    expect(newStep(table, "plate")).not.toHaveProperty("second");
  });

  it("has controls for its own parameters only", () => {
    expect(ownFields(table).map(([name]) => name)).toEqual(["size", "form"]);
    expect(footingOf(table)).toBe("on_straight");
  });

  it("tells in a line what is not as it starts", () => {
    const step = { ...newStep(table), form: "disc", channels: "r" } as unknown as Step;
    expect(stepInWords(step, table)).toBe("R, size 2, Disc");
    expect(stepInWords({ ...newStep(table), size: 4 } as unknown as Step, table)).toBe("as it starts");
  });

  it("tells where it acts", () => {
    const step = {
      ...newStep(table),
      mix: 0.4,
      on_straight: true,
      through: { by: "ellipse", inverted: true, channel: "alpha" },
    } as unknown as Step;
    expect(actsWhereInWords(step)).toBe("40 %, outside a soft ellipse, on straight");
  });
});

describe("a tone curve", () => {
  it("is drawn from its first to its last value", () => {
    const path = curvePath([
      [0, 0],
      [1, 1],
    ]);
    expect(path.startsWith("M0.0 200.0L")).toBe(true);
    expect(path.endsWith("L200.0 0.0")).toBe(true);
  });

  it("keeps its points in order", () => {
    const points: [number, number][] = [
      [0, 0],
      [0.5, 0.5],
      [1, 1],
    ];
    expect(withPoint(points, 1, [2, 0.7])[1]).toEqual([0.999, 0.7]);
    expect(withPoint(points, 1, [-2, 0.7])[1]).toEqual([0.001, 0.7]);
  });
});
