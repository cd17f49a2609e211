/** Files being imported: kept above the desks, so that changing desks does not end it. */
import { create } from "zustand";
import { asProblem, type ElementOut, type Problem } from "../api/client";
import { importFiles, type Importing, type Dropped } from "../api/importFiles";
import { importScene, isScene } from "../api/scenes";
import { text } from "./strings";

const t = text.importing;

interface Store {
  state: Importing | null;
  problem: Problem | null;
  cancel: (() => void) | null;
  /** The elements that were made of the files; none where they are scenes, or where it was not done. */
  bring: (project: number, files: Dropped[]) => Promise<ElementOut[]>;
  dismiss: () => void;
}

export const useImporting = create<Store>((set, get) => ({
  state: null,
  problem: null,
  cancel: null,
  dismiss: () => set({ problem: null }),
  bring: async (project, files) => {
    if (files.length === 0) return [];
    if (get().state !== null) {
      set({
        problem: {
          code: "busy",
          message: t.anImportIsRunningAlready,
          advice: t.waitUntilItHasEnded,
          where: "",
        },
      });
      return [];
    }
    const stop = new AbortController();
    set({ cancel: () => stop.abort(), problem: null });
    try {
      return await bringAll(project, files, stop.signal, (state) => set({ state }));
    } catch (error) {
      stop.abort();
      if (!(error instanceof DOMException)) set({ problem: asProblem(error) });
      return [];
    } finally {
      set({ state: null, cancel: null });
    }
  },
}));

/** Scenes go to the Scene desk, everything else becomes elements. A .gltf takes the other files with it. */
async function bringAll(
  project: number,
  files: Dropped[],
  signal: AbortSignal,
  onProgress: (state: Importing) => void,
): Promise<ElementOut[]> {
  const scenes = files.filter((f) => isScene(f.name));
  const open = scenes.filter((f) => /\.gltf$/i.test(f.name));
  const rest = files.filter((f) => !isScene(f.name));
  const sets = open.length > 0 ? [[...open, ...rest]] : [];
  sets.push(...scenes.filter((f) => !open.includes(f)).map((f) => [f]));
  for (const set of sets) {
    const bytes = set.reduce((sum, f) => sum + f.file.size, 0);
    await importScene(project, set, signal, (filesDone, bytesDone) =>
      onProgress({ files: set.length, filesDone, bytes, bytesDone }),
    );
  }
  if (open.length > 0 || rest.length === 0) return [];
  return importFiles(project, rest, signal, onProgress);
}
