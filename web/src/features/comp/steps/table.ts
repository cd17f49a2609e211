/** What the server tells of each step, and what can be said of one from it. */
import type { ElementOut, Tables } from "../../../api/client";
import type { Step } from "../../../domain/comp";
import { ownPlane } from "../../../domain/holds";
import { trimmed } from "../../../domain/words";
import { text } from "../strings";

const t = text.table;

export interface Field {
  title?: string;
  description?: string;
  type?: string;
  default?: unknown;
  minimum?: number;
  maximum?: number;
  unit?: string;
  slider?: [number, number];
  enum?: string[];
  labels?: Record<string, string>;
  /** What comes along to choose from, where more can be brought. */
  options?: string[];
  pattern?: string;
  /** It has no keys. */
  still?: boolean;
}

export type StepTable = Tables["steps"][number];

/** Fields every step has, which stand apart from its own. */
const COMMON = new Set([
  "kind",
  "on",
  "mix",
  "through",
  "keys",
  "on_premultiplied",
  "on_straight",
  "channels",
  "extra_channel",
  "mixed",
]);

export const fieldsOf = (table: StepTable) => table.fields as Record<string, Field>;

export function ownFields(table: StepTable): [string, Field][] {
  return Object.entries(fieldsOf(table)).filter(([key, f]) => !COMMON.has(key) && f.unit !== "made");
}

/** Which way a step may be put on the wrong footing, to see what happens. */
export function footingOf(table: StepTable): "on_premultiplied" | "on_straight" | null {
  if ("on_premultiplied" in table.fields) return "on_premultiplied";
  return "on_straight" in table.fields ? "on_straight" : null;
}

/**
 * A step as it starts. ``plate``: the id of the layer that one which looks at the plate looks at; ``element``:
 * what the layer shows, whose own channels are taken where it holds the data itself.
 */
export function newStep(table: StepTable, plate?: string, element?: ElementOut): Step {
  const start = Object.entries(fieldsOf(table)).map(([key, field]): [string, unknown] => [
    key,
    (element && field.unit === "plane" && ownPlane(element, String(field.default))) || field.default,
  ]);
  const made: Record<string, unknown> = { ...Object.fromEntries(start), ...table.fresh, kind: table.kind };
  if (plate && made["fit"] === "placed") made["second"] = `layer:${plate}`;
  return made as unknown as Step;
}

const short = (value: unknown): string =>
  typeof value === "number"
    ? trimmed(value, 2)
    : Array.isArray(value)
      ? value.length > 3
        ? `${value.length}`
        : value.map(short).join(" ")
      : String(value);

/** What of a step is not as it starts, in a few words. */
export function stepInWords(step: Step, table: StepTable): string {
  const value = step as unknown as Record<string, unknown>;
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
  const words = ownFields(table)
    .filter(([, f]) => f.unit !== "source")
    .filter(([key, f]) => !same(value[key], f.default) || step.keys[key])
    .map(([key, f]) => {
      if (step.keys[key]) return `${f.title} moves`;
      if (typeof value[key] === "boolean") return f.title;
      if (f.unit === "patch") return t.routed(Object.keys(value[key] as object).join(""));
      if (f.unit === "curve") return t.points((value[key] as unknown[]).length);
      const label = f.labels?.[String(value[key])];
      return label ?? `${f.title} ${short(value[key])}`;
    });
  if (step.channels && !same(step.channels, fieldsOf(table)["channels"]?.default))
    words.unshift(step.channels.toUpperCase());
  return words.slice(0, 3).join(", ") || "as it starts";
}
