/** All text of controls, by the file that shows it. Titles and help of the core's models come with them. */
export const text = {
  NumberField: {
    slider: (name: string) => `${name}, slider`,
    goesFromTo: (name: string, value: string | number, value2: string | number) =>
      `${name} goes from ${value} to ${value2}.`,
    doubleClickBackTo: (rest: string) => `Double click: back to ${rest}`,
  },
  Overview: {
    seenTo: (x0: number, y0: number, x1: number, y1: number) => `Seen: ${x0}, ${y0} to ${x1}, ${y1}`,
  },
  overlays: {
    wipe: "Wipe",
  },
  KeyPointer: {
    pointer: "Pointer moved by keys",
    keys: "Arrows move, Shift by ten; Enter clicks; Space holds; Esc ends",
    held: "Held: arrows drag; Space or Enter lets go; Esc gives up",
  },
  FrameField: {
    frame: "Frame",
  },
} as const;
