/** Picking a matte colour from the picture: begun beside the reading, done in the picture. */
import { create } from "zustand";

interface Pick {
  picking: boolean;
  setPicking: (picking: boolean) => void;
}

export const usePick = create<Pick>((set) => ({
  picking: false,
  setPicking: (picking) => set({ picking }),
}));

window.addEventListener("keydown", (event) => {
  if (event.key === "Escape") usePick.setState({ picking: false });
});
