/** The set-up that is worked on: sketched while dragging, committed on release, undone step by step. */
import { create } from "zustand";
import type { RenderSetup } from "../../api/scenes";
import { text } from "./strings";

const t = text.setupStore;

export interface Working {
  scene: number;
  document: RenderSetup;
  past: RenderSetup[];
  future: RenderSetup[];
  /** Name of the kept set-up that it began from; empty where there is none. */
  name: string;
  /** Whether it differs from the kept one. */
  changed: boolean;
}

interface Store {
  working: Working | null;
  /** Begin with a kept set-up; what was worked on can be come back to by undo. */
  open: (scene: number, name: string, document: RenderSetup) => void;
  /** Shown at once, no entry of undo. */
  sketch: (part: Partial<RenderSetup>) => void;
  commit: (part: Partial<RenderSetup>) => void;
  undo: () => void;
  redo: () => void;
  kept: (name: string) => void;
  /** Take up what an earlier visit left, if anything. */
  recall: (scene: number) => boolean;
}

const MOST = 200;
/** Of the set-up document: what another version of the page kept is left alone. */
const VERSION = 2;

const place = (scene: number) => `neatveil-setup-${scene}`;

function keep(working: Working): void {
  try {
    const { document, name, changed } = working;
    localStorage.setItem(place(working.scene), JSON.stringify({ document, name, changed }));
  } catch {
    // a full or forbidden store costs the memory of the next visit, nothing else
  }
}

export const useSetup = create<Store>((set, get) => {
  /** The state before a drag began; null when nothing is being dragged. */
  let before: RenderSetup | null = null;
  const put = (working: Working) => {
    keep(working);
    set({ working });
  };
  return {
    working: null,
    open: (scene, name, document) => {
      const old = get().working;
      const past = old?.scene === scene ? [...old.past, old.document].slice(-MOST) : [];
      before = null;
      put({ scene, document, past, future: [], name, changed: false });
    },
    sketch: (part) => {
      const working = get().working;
      if (!working) return;
      before ??= working.document;
      set({ working: { ...working, document: { ...working.document, ...part } } });
    },
    commit: (part) => {
      const working = get().working;
      if (!working) return;
      const from = before ?? working.document;
      before = null;
      const document = { ...working.document, ...part };
      if (JSON.stringify(document) === JSON.stringify(from)) {
        set({ working: { ...working, document } });
        return;
      }
      put({ ...working, document, past: [...working.past, from].slice(-MOST), future: [], changed: true });
    },
    undo: () => {
      const working = get().working;
      const last = working?.past.at(-1);
      if (!working || !last) return;
      const future = [working.document, ...working.future];
      put({ ...working, document: last, past: working.past.slice(0, -1), future, changed: true });
    },
    redo: () => {
      const working = get().working;
      const [next, ...future] = working?.future ?? [];
      if (!working || !next) return;
      put({ ...working, document: next, past: [...working.past, working.document], future, changed: true });
    },
    kept: (name) => {
      const working = get().working;
      if (working) put({ ...working, name, changed: false });
    },
    recall: (scene) => {
      if (get().working?.scene === scene) return true;
      const text = localStorage.getItem(place(scene));
      if (text === null) return false;
      try {
        const told = JSON.parse(text) as Pick<Working, "document" | "name" | "changed">;
        const version: number = told.document.neatveil_scene;
        if (version !== VERSION) return false; // of an older page
        // fields that came later are as in a fresh one
        const document = { ...firstSetup(0), ...told.document };
        set({ working: { ...told, document, scene, past: [], future: [] } });
        return true;
      } catch {
        return false;
      }
    },
  };
});

/** What a scene is begun with when nothing is kept for it. */
export function firstSetup(seconds: number): RenderSetup {
  return {
    neatveil_scene: VERSION,
    name: "",
    camera: null,
    placed_camera: null,
    lamps: [],
    first: 1,
    last: Math.max(1, Math.round(seconds * 25)),
    rate: "25",
    width: 960,
    height: 540,
    use: "final",
    draft: { samples: 2, indirect: false, shrink: 2 },
    samples: 16,
    noise: 0,
    pixel_filter: "box",
    seed: 0,
    passes: ["beauty", "depth"],
    alpha: "premultiplied",
    over: [0, 0, 0],
    lights: true,
    indirect: true,
    bounces: 3,
    firefly_clamp: 10,
    environment: null,
    refraction_in_alpha: true,
    shutter: null,
    depth_of_field: null,
    glare: null,
    numbers: {},
    most_motion: 64,
    shadow_catchers: [],
    shadows: "separate-pass",
    layers: [],
    holdout: "nearer",
    flattened: false,
    plate: null,
    output: { format: "exr", compression: "zip", dither: true, alpha_with_passes: false, depth_range: null },
  };
}

/** What a pass needs that the set-up does not give yet, in words; null where nothing is missing. */
export function missingFor(need: string | null, setup: RenderSetup): string | null {
  if (need === "catcher" && setup.shadow_catchers.length === 0) return t.needsAShadowCatcher;
  if (need === "plate" && setup.plate === null) return t.needsAPlate;
  if (need === "sky" && !setup.environment?.visible) return t.needsAVisibleEnvironment;
  if (need === "glare" && !setup.glare?.strength) return t.needsAGlare;
  return null;
}
