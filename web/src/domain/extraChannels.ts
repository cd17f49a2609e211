/** Channels of elements beside their colour and alpha. */
import type { ElementOut } from "../api/client";

const COLOUR = new Set(["R", "G", "B", "Y"]);

export function extraChannelsOf(elements: readonly ElementOut[]): string[] {
  const names = elements.flatMap((e) => {
    const own = e.facts?.channels.map((c) => c.name) ?? [];
    // what holds data by itself has it in R, G, B
    return [...own.filter((n) => e.holds || !COLOUR.has(n)), ...e.parts.map((p) => p.name)];
  });
  return [...new Set(names)].filter((n) => n !== "A");
}
