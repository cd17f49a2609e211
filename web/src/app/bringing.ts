/** Files being brought in: kept above the desks, so that changing desks does not end it. */
import { create } from "zustand";
import { asProblem, type Problem } from "../api/client";
import { bringFiles, type Bringing } from "../api/bring";

interface Store {
  state: Bringing | null;
  problem: Problem | null;
  cancel: (() => void) | null;
  bring: (project: number, files: File[]) => Promise<void>;
  dismiss: () => void;
}

export const useBringing = create<Store>((set, get) => ({
  state: null,
  problem: null,
  cancel: null,
  dismiss: () => set({ problem: null }),
  bring: async (project, files) => {
    if (files.length === 0) return;
    if (get().state !== null) {
      set({
        problem: {
          code: "busy",
          message: "Files are being brought in already.",
          advice: "Wait until they are there, then bring in the next ones.",
          where: "",
        },
      });
      return;
    }
    const stop = new AbortController();
    set({ cancel: () => stop.abort(), problem: null });
    try {
      await bringFiles(project, files, stop.signal, (state) => set({ state }));
    } catch (error) {
      stop.abort();
      if (!(error instanceof DOMException)) set({ problem: asProblem(error) });
    } finally {
      set({ state: null, cancel: null });
    }
  },
}));
