/** How long the newest picture took: by itself, so that only what shows it is rendered again. */
import { create } from "zustand";

export const useDrawTime = create<{ milliseconds: number | null }>(() => ({ milliseconds: null }));
