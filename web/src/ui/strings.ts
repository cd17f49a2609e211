/** All text of controls, by the file that shows it. Titles and help of the core's models come with them. */
export const text = {
  NumberField: {
    slider: (name: string) => `${name}, slider`,
  },
  Overview: {
    seenTo: (x0: number, y0: number, x1: number, y1: number) => `Seen: ${x0}, ${y0} to ${x1}, ${y1}`,
  },
  overlays: {
    wipe: "Wipe",
  },
} as const;
