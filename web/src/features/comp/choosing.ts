/** Choosing cards of the lineup, one or several, and moving one by a place. */
import { moveInto, type CompDocument, type Layer } from "../../domain/comp";
import { lockOf } from "../../domain/locks";
import { holdersOf, placeOf, slotsOf } from "../../domain/tree";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.Lineup;

interface Held {
  ctrlKey: boolean;
  metaKey: boolean;
  shiftKey: boolean;
}

/** A press on a card: it alone; with Ctrl it joins or leaves those chosen; with Shift all from the chosen one. */
export function chooseCard(held: Held, id: string, document: CompDocument, open: readonly string[]): void {
  const { layer, also, set } = useDesk.getState();
  const row = cardsOf(document, open).map((l) => l.id);
  const [a, b] = [layer === null ? -1 : row.indexOf(layer), row.indexOf(id)];
  if (held.shiftKey && a >= 0 && b >= 0)
    set({ also: row.slice(Math.min(a, b), Math.max(a, b) + 1).filter((i) => i !== layer) });
  else if ((held.ctrlKey || held.metaKey) && layer !== null && layer !== id)
    set({ also: also.includes(id) ? also.filter((i) => i !== id) : [...also, id] });
  else set({ layer: id, also: [] });
}

/** The groups whose members are shown: those that were opened, and those that hold the chosen layer. */
export function openGroups(
  document: CompDocument,
  opened: readonly string[],
  layer: string | null,
): string[] {
  const holding = layer === null ? [] : holdersOf<Layer>(document.layers, layer).map((g) => g.id);
  return [...new Set([...opened, ...holding])];
}

/** The cards in their order, an open group by where it opens. */
export function cardsOf(document: CompDocument, open: readonly string[]): Layer[] {
  return slotsOf<Layer>(document.layers, open).flatMap((s) => (s.kind === "closes" ? [] : s.layer));
}

/** More cards than these are small, unless a person says otherwise. */
const MANY = 16;

/** Whether cards are small, so that all of them are seen at once. */
export const cardsAreSmall = (
  document: CompDocument,
  open: readonly string[],
  asked: boolean | null,
): boolean => asked ?? cardsOf(document, open).length > MANY;

/** All that is chosen, in no order. */
export function chosenIds(): string[] {
  const { layer, also } = useDesk.getState();
  return layer === null ? [] : [layer, ...also];
}

/** One place nearer to the lens or further from it, into an open group and out of it. */
export function moveCard(store: DocumentStore, layer: Layer, by: number): void {
  const { document, commit } = store.getState();
  // a group is moved as one card
  const open = openGroups(document, useDesk.getState().opened, layer.id).filter((id) => id !== layer.id);
  const slots = slotsOf<Layer>(document.layers, open);
  const from = slots.findIndex((slot) => slot.layer.id === layer.id);
  const to = Math.max(0, Math.min(slots.length - 1, from + by));
  const place = placeOf(slots, from, to);
  if (to === from) return;
  const locked = lockOf(document, layer.id);
  if (locked !== null) store.setState({ locked });
  else commit((d) => moveInto(d, layer.id, place.group, place.to), t.move(layer.name));
}
