/** Finding elements in a long list: by words of their names, by what they are, in an order. */
import type { ElementOut } from "../api/client";
import { wantsAttention } from "./attention";

export const KINDS = ["all", "still", "sequence", "movie", "alpha", "data", "attention", "unused"] as const;
export const ORDERS = ["import", "newest", "name", "large"] as const;
export type Kind = (typeof KINDS)[number];
export type Order = (typeof ORDERS)[number];

export interface Search {
  words: string;
  kind: Kind;
  order: Order;
  /** Only those of a label; null: of any and of none. */
  label: string | null;
}

export const EVERYTHING: Search = { words: "", kind: "all", order: "import", label: null };

/** Whether all words stand in a name, in any order and case. */
export function holdsWords(name: string, words: string): boolean {
  const own = name.toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => own.includes(word));
}

function isOfKind(element: ElementOut, kind: Kind, unused: ReadonlySet<number>): boolean {
  switch (kind) {
    case "all":
      return true;
    case "alpha":
      return element.has_alpha;
    case "data":
      return element.holds !== "";
    case "attention":
      return wantsAttention(element);
    case "unused":
      return unused.has(element.id);
    default:
      return element.facts?.kind === kind;
  }
}

const BY: Record<Exclude<Order, "import">, (a: ElementOut, b: ElementOut) => number> = {
  newest: (a, b) => b.id - a.id,
  name: (a, b) => a.name.localeCompare(b.name, "en", { numeric: true, sensitivity: "base" }),
  large: (a, b) => (b.facts?.bytes ?? 0) - (a.facts?.bytes ?? 0),
};

/** ``unused``: numbers of those that nothing uses, where they are looked for. */
export function searched(
  rows: ElementOut[],
  { words, kind, order, label }: Search,
  unused: ReadonlySet<number> = new Set(),
): ElementOut[] {
  const found = rows.filter(
    (e) =>
      (label === null || e.label === label) &&
      isOfKind(e, kind, unused) &&
      holdsWords(`${e.label} ${e.folder}/${e.name}`, words),
  );
  return order === "import" ? found : found.toSorted(BY[order]);
}

/** Labels that are there, by name, each with how many elements it has. */
export function labelsOf(rows: readonly ElementOut[]): [string, number][] {
  const counts = new Map<string, number>();
  for (const { label } of rows) if (label) counts.set(label, (counts.get(label) ?? 0) + 1);
  return [...counts].sort(([a], [b]) => a.localeCompare(b, "en", { numeric: true, sensitivity: "base" }));
}
