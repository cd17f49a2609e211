import { text } from "./strings";

const t = text.mode;
/** What the Elements desk shows of the chosen element; kept in the address. */
export const MODES = [
  { value: "picture", label: t.picture },
  { value: "trial", label: t.compareReadings },
  { value: "frames", label: t.frames },
] as const;

export type Mode = (typeof MODES)[number]["value"];

export function modeOf(text: string | null): Mode {
  return MODES.find((m) => m.value === text)?.value ?? "picture";
}
