/** A tree of layers: finding one, changing it, putting it elsewhere. Pure functions from list to list. */

interface Leaf {
  id: string;
  kind: string;
}
type Branch<T> = T & { kind: "group"; layers: T[] };

const isBranch = <T extends Leaf>(node: T): node is Branch<T> => node.kind === "group";

/** Every node, groups before their members. */
export function walk<T extends Leaf>(nodes: readonly T[]): T[] {
  return nodes.flatMap((n) => (isBranch(n) ? [n, ...walk<T>(n.layers)] : [n]));
}

export function find<T extends Leaf>(nodes: readonly T[], id: string): T | undefined {
  return walk(nodes).find((n) => n.id === id);
}

/** The group that holds a node; nothing for one that no group holds. */
export function parentOf<T extends Leaf>(nodes: readonly T[], id: string): Branch<T> | undefined {
  for (const node of walk(nodes)) if (isBranch(node) && node.layers.some((m) => m.id === id)) return node;
  return undefined;
}

/** The groups that hold a node, the innermost first. */
export function holdersOf<T extends Leaf>(nodes: readonly T[], id: string): Branch<T>[] {
  const parent = parentOf(nodes, id);
  return parent ? [parent, ...holdersOf(nodes, parent.id)] : [];
}

/** The same nodes with one of them changed; all that is not on the way to it stays the same object. */
export function changeIn<T extends Leaf>(nodes: readonly T[], id: string, change: (node: T) => T): T[] {
  return nodes.map((node) => {
    if (node.id === id) return change(node);
    if (!isBranch(node) || !find<T>(node.layers, id)) return node;
    return { ...node, layers: changeIn<T>(node.layers, id, change) };
  });
}

export function removeFrom<T extends Leaf>(nodes: readonly T[], id: string): T[] {
  return nodes
    .filter((n) => n.id !== id)
    .map((n) => (isBranch(n) && find<T>(n.layers, id) ? { ...n, layers: removeFrom<T>(n.layers, id) } : n));
}

/** A node put into a group (null: into none) at a place among its members. */
export function insertIn<T extends Leaf>(
  nodes: readonly T[],
  group: string | null,
  to: number,
  node: T,
): T[] {
  if (group === null) {
    const next = [...nodes];
    next.splice(Math.max(0, Math.min(next.length, to)), 0, node);
    return next;
  }
  return changeIn(nodes, group, (g) =>
    isBranch(g) ? { ...g, layers: insertIn<T>(g.layers, null, to, node) } : g,
  );
}

/** A place in the row of cards: a card, or where an open group begins or ends. */
export interface Slot<T> {
  kind: "card" | "opens" | "closes";
  layer: T;
}

/** The row of cards, far to near; ``open``: the ids of the groups that show their members. */
export function slotsOf<T extends Leaf>(nodes: readonly T[], open: readonly string[]): Slot<T>[] {
  return nodes.flatMap((layer): Slot<T>[] => {
    if (!isBranch(layer) || !open.includes(layer.id)) return [{ kind: "card", layer }];
    return [{ kind: "opens", layer }, ...slotsOf<T>(layer.layers, open), { kind: "closes", layer }];
  });
}

/** Where a card that is put at a place of the row, itself left out, ends up: in which group, and at which place. */
export function placeOf<T extends Leaf>(
  slots: readonly Slot<T>[],
  from: number,
  to: number,
): { group: string | null; to: number } {
  const before = slots.filter((_, i) => i !== from).slice(0, to);
  const groups: { id: string; count: number }[] = [];
  let count = 0;
  for (const slot of before) {
    if (slot.kind === "opens") {
      groups.push({ id: slot.layer.id, count });
      count = 0;
    } else if (slot.kind === "closes") count = (groups.pop()?.count ?? 0) + 1;
    else count += 1;
  }
  return { group: groups.at(-1)?.id ?? null, to: count };
}
