/** Slots of a comp, and the list whose rows fill them. */
import type { CompDocument, Layer, Step } from "./comp";

export type Slot = CompDocument["slots"][number];
export type Row = CompDocument["rows"][number];

/** The names of the slots, each once: the columns of the list. */
export const columnsOf = (document: Pick<CompDocument, "slots">): string[] => [
  ...new Set(document.slots.map((s) => s.name)),
];

/** A name that no slot has, made of what is filled. */
export function freeName(document: Pick<CompDocument, "slots">, wanted: string): string {
  const base = wanted.replace(/[^A-Za-z0-9_ -]+/g, "").replace(/^[^A-Za-z]+/, "") || "slot";
  const taken = new Set(columnsOf(document));
  let name = base;
  for (let n = 2; taken.has(name); n += 1) name = `${base} ${n}`;
  return name;
}

export const addSlot = (document: CompDocument, slot: Slot): CompDocument => ({
  ...document,
  slots: [...document.slots, slot],
});

/** Take a slot out, and its column where no other has that name. */
export function removeSlot(document: CompDocument, index: number): CompDocument {
  const slots = document.slots.filter((_, i) => i !== index);
  const gone = document.slots[index]?.name;
  if (gone === undefined || slots.some((s) => s.name === gone)) return { ...document, slots };
  const rows = document.rows.map((row) =>
    Object.fromEntries(Object.entries(row).filter(([n]) => n !== gone)),
  );
  return { ...document, slots, rows };
}

/** Another name for a slot; its column goes along where no other slot keeps it. */
export function renameSlot(document: CompDocument, index: number, name: string): CompDocument {
  const before = document.slots[index]?.name;
  if (before === undefined || before === name) return document;
  const slots = document.slots.map((s, i) => (i === index ? { ...s, name } : s));
  const kept = slots.some((s) => s.name === before);
  const rows = document.rows.map((row) => {
    if (!(before in row) || name in row) return row;
    const { [before]: cell = "", ...rest } = row;
    return kept ? { ...row, [name]: cell } : { ...rest, [name]: cell };
  });
  return { ...document, slots, rows };
}

export const withCell = (
  document: CompDocument,
  index: number,
  column: string,
  cell: string,
): CompDocument => ({
  ...document,
  rows: document.rows.map((row, i) => (i === index ? { ...row, [column]: cell } : row)),
});

export const withRows = (document: CompDocument, rows: Row[]): CompDocument => ({ ...document, rows });

/** Where the slots of a layer lie once its steps are others: those of a step that is gone are gone. */
export function slotsAfter(slots: Slot[], layer: string, before: Step[], after: Step[]): Slot[] {
  return slots.flatMap((slot) => {
    if (slot.layer !== layer || slot.step === null) return [slot];
    const step = before[slot.step];
    const place = step ? after.indexOf(step) : -1;
    if (place >= 0) return [place === slot.step ? slot : { ...slot, step: place }];
    return before.length === after.length ? [slot] : []; // it was changed where it is, or taken out
  });
}

/** Without the slots of layers that are not there any more. */
export const slotsOfLayers = (slots: Slot[], layers: Layer[]): Slot[] =>
  slots.filter((s) => layers.some((l) => l.id === s.layer));

/** ``1-3,5`` as numbers from 1 to ``count``; null where it is no such text. */
export function rowsIn(text: string, count: number): number[] | null {
  const found = new Set<number>();
  for (const part of text.split(",").map((p) => p.trim())) {
    const match = /^(\d+)(?:-(\d+))?$/.exec(part);
    if (!match) return null;
    const [first, last] = [Number(match[1]), Number(match[2] ?? match[1])];
    if (first < 1 || last < first || last > count) return null;
    for (let n = first; n <= last; n += 1) found.add(n);
  }
  return [...found];
}
