/** What the Elements desk shows of the chosen element; kept in the address. */
export const MODES = [
  { value: "picture", label: "Picture" },
  { value: "trial", label: "Compare readings" },
  { value: "frames", label: "Frames" },
] as const;

export type Mode = (typeof MODES)[number]["value"];

export function modeOf(text: string | null): Mode {
  return MODES.find((m) => m.value === text)?.value ?? "picture";
}
