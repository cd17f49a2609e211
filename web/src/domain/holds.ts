/** What an element holds: colour, or data by itself, which is never converted. */
import type { ElementOut } from "../api/client";

export const HOLDS = [
  { value: "colour", label: "Colour" },
  { value: "depth", label: "Depth" },
  { value: "uv", label: "UV" },
  { value: "motion", label: "Motion vectors" },
  { value: "normals", label: "Normals" },
  { value: "position", label: "Position" },
  { value: "data", label: "Other data" },
];

export function holdsInWords(kind: string): string {
  return HOLDS.find((h) => h.value === (kind || "colour"))?.label ?? kind;
}

/** How many channels its picture is made of; others show up to three. */
const CHANNELS: Record<string, number> = { depth: 1, uv: 2, motion: 2 };

/** The usual names of what several channels hold, in their order. */
const USUAL: Record<string, string[]> = {
  depth: ["depth.Z"],
  uv: ["uv.U", "uv.V"],
  motion: ["motion.X", "motion.Y"],
  normals: ["normal.X", "normal.Y", "normal.Z"],
};

/** The element's own channel for a usual name, where it holds that data by itself under other names. */
export function ownPlane(element: ElementOut, usual: string): string | null {
  const at = USUAL[element.holds]?.indexOf(usual) ?? -1;
  const names = element.facts?.channels.map((c) => c.name) ?? [];
  return at < 0 || names.includes(usual) ? null : (dataPlanes(element)?.[at] ?? null);
}

/** The channels that an element of data is shown by; null for colour. */
export function dataPlanes(element: ElementOut): string[] | null {
  if (!element.holds) return null;
  const own = (element.facts?.channels ?? []).map((c) => c.name).filter((n) => n !== "A");
  const order = (name: string) => "RGB".indexOf(name);
  return own.toSorted((a, b) => order(a) - order(b)).slice(0, CHANNELS[element.holds] ?? 3);
}
