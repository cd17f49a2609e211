/**
 * The comp document while it is worked on: the saved state, a draft while something moves, and the
 * writing of changes one after another. A write that started from an old revision is not forced:
 * it waits until the person has chosen.
 */
import { create, type StoreApi, type UseBoundStore } from "zustand";
import { asProblem, client, take, type CompOut, type Problem } from "../../api/client";
import { documentOf, type CompDocument } from "../../domain/comp";
import { lockedTouched } from "../../domain/locks";
import { text } from "./strings";

const t = text.documentStore;

export type Edit = (document: CompDocument) => CompDocument;

/** The calls this store makes; another set stands in for them in tests. */
export interface CompCalls {
  read: () => Promise<CompOut>;
  write: (document: CompDocument, base: number, what: string) => Promise<CompOut>;
  step: (way: "undo" | "redo", base: number) => Promise<CompOut>;
}

export interface DocumentState {
  comp: CompOut;
  document: CompDocument;
  draft: CompDocument | null;
  saving: boolean;
  problem: Problem | null;
  /** The id of the locked layer that the last change would have touched: it was not made. */
  locked: string | null;
  /** Show a change while it is being made. */
  sketch: (edit: Edit) => void;
  /** Accept a change: one entry of undo. */
  commit: (edit: Edit, what: string) => void;
  undo: () => void;
  redo: () => void;
  /** The newest state of the server, where nothing of ours is on its way. */
  adopt: (comp: CompOut) => void;
  /** After a refusal: drop what was not saved, or write it again on top of the newest. */
  takeNewest: () => Promise<void>;
  insist: () => Promise<void>;
}

export type DocumentStore = UseBoundStore<StoreApi<DocumentState>>;

/** What is to be seen: the draft while something moves, else the accepted document. */
export const shownDocument = (state: DocumentState): CompDocument => state.draft ?? state.document;

export function createDocumentStore(first: CompOut, calls: CompCalls): DocumentStore {
  let waiting: { what: string } | null = null;
  /** Asked for while something was being saved: done after that. */
  const asked: ("undo" | "redo")[] = [];
  /** Changes made while something is taken back: they go on top of what comes out of that. */
  let later: (() => void)[] | null = null;

  return create<DocumentState>((set, get) => {
    const accept = (comp: CompOut) => set({ comp, document: documentOf(comp.document), problem: null });

    async function write(base: number) {
      set({ saving: true });
      try {
        while (waiting !== null) {
          const { what } = waiting;
          waiting = null;
          const sent = get().document;
          const comp = await calls.write(sent, base, what);
          base = comp.revision;
          // what was changed meanwhile is still to be written: only the revision moves on
          if (get().document === sent) accept(comp);
          else set({ comp });
        }
      } catch (error) {
        waiting = null;
        set({ problem: asProblem(error) });
      } finally {
        rest();
      }
    }

    function rest() {
      set({ saving: false });
      const next = asked.shift();
      if (next) void step(next);
    }

    async function step(way: "undo" | "redo") {
      if (get().problem) {
        asked.length = 0;
        return;
      }
      if (get().saving) {
        asked.push(way);
        return;
      }
      set({ saving: true, draft: null });
      later = [];
      try {
        accept(await calls.step(way, get().comp.revision));
      } catch (error) {
        set({ problem: asProblem(error) });
      } finally {
        const changes = later;
        later = null;
        rest();
        for (const change of changes) change();
      }
    }

    return {
      comp: first,
      document: documentOf(first.document),
      draft: null,
      saving: false,
      problem: null,
      locked: null,
      sketch: (edit) => {
        const draft = edit(get().document);
        if (lockedTouched(get().document, draft) === null) set({ draft });
      },
      commit: (edit, what) => {
        if (later) {
          later.push(() => get().commit(edit, what));
          return;
        }
        const next = edit(get().document);
        const locked = lockedTouched(get().document, next);
        set({ locked, draft: null });
        if (locked !== null) return;
        set({ document: next });
        waiting = { what };
        if (!get().saving && !get().problem) void write(get().comp.revision);
      },
      undo: () => void step("undo"),
      redo: () => void step("redo"),
      adopt: (comp) => {
        const state = get();
        if (comp.revision > state.comp.revision && !state.saving && waiting === null && !state.problem)
          accept(comp);
      },
      takeNewest: async () => {
        waiting = null;
        try {
          accept(await calls.read());
          set({ draft: null });
        } catch (error) {
          set({ problem: asProblem(error) });
        }
      },
      insist: async () => {
        try {
          const newest = await calls.read();
          waiting = { what: t.keptMine };
          set({ problem: null });
          await write(newest.revision);
        } catch (error) {
          set({ problem: asProblem(error) });
        }
      },
    };
  });
}

export function serverCalls(comp: number): CompCalls {
  const path = { comp_id: comp };
  return {
    read: () => take<CompOut>(client.GET("/api/comps/{comp_id}", { params: { path } })),
    write: (document, base, what) =>
      take<CompOut>(client.PUT("/api/comps/{comp_id}", { params: { path }, body: { document, base, what } })),
    step: (way, base) =>
      take<CompOut>(
        way === "undo"
          ? client.POST("/api/comps/{comp_id}/undo", { params: { path }, body: { base } })
          : client.POST("/api/comps/{comp_id}/redo", { params: { path }, body: { base } }),
      ),
  };
}
