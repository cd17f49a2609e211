/** Notes pinned to a frame and a place of a comp. */
import type { CompDocument } from "./comp";

export type Note = CompDocument["notes"][number];

/** By frame, those that are done last. */
export function notesInOrder(notes: readonly Note[]): Note[] {
  return [...notes].sort((a, b) => Number(a.done) - Number(b.done) || a.frame - b.frame);
}

/** A new one, and its id; in whole pixels. */
export function addNote(
  document: CompDocument,
  frame: number,
  [x, y]: [number, number],
  text: string,
): [CompDocument, string] {
  const used = new Set(document.notes.map((n) => n.id));
  let number = document.notes.length + 1;
  while (used.has(`note${number}`)) number += 1;
  const id = `note${number}`;
  const note: Note = {
    id,
    text: text.slice(0, 2000),
    frame,
    x: Math.round(x),
    y: Math.round(y),
    done: false,
  };
  return [{ ...document, notes: [...document.notes, note] }, id];
}

export function changeNote(document: CompDocument, id: string, change: Partial<Note>): CompDocument {
  return { ...document, notes: document.notes.map((n) => (n.id === id ? { ...n, ...change } : n)) };
}

export function removeNote(document: CompDocument, id: string): CompDocument {
  return { ...document, notes: document.notes.filter((n) => n.id !== id) };
}
