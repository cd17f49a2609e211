/** How long the newest picture took, and whether one is waited for: by itself, so that only what shows it is
 * rendered again. */
import { create } from "zustand";

export const useDrawTime = create<{ milliseconds: number | null; waiting: boolean }>(() => ({
  milliseconds: null,
  waiting: false,
}));
