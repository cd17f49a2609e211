import { describe, expect, it, vi } from "vitest";
import { ApiProblem, type CompOut } from "../../api/client";
import { addLayer, documentOf, newDocument, type CompDocument } from "../../domain/comp";
import { createDocumentStore, type CompCalls } from "./documentStore";

function comp(revision: number, document: CompDocument): CompOut {
  return {
    id: 1,
    project: 1,
    name: document.name,
    revision,
    document,
    can_undo: null,
    can_redo: null,
  } as never;
}

const start = newDocument("dusk", { width: 4, height: 4 }, "25", 8);

/** A server in memory that refuses stale writes as the real one does. */
function server() {
  let now = comp(1, start);
  const gates: (() => void)[] = [];
  const writes: string[] = [];
  const calls: CompCalls = {
    read: () => Promise.resolve(now),
    write: async (document, base, what) => {
      writes.push(what);
      await new Promise<void>((open) => gates.push(open));
      if (base !== now.revision) {
        throw new ApiProblem(409, { code: "stale", message: "changed meanwhile", advice: "", where: "" });
      }
      now = comp(base + 1, document);
      return now;
    },
    step: (_, base) => {
      now = comp(base + 1, start);
      return Promise.resolve(now);
    },
  };
  return {
    calls,
    writes,
    open: async () => {
      await vi.waitFor(() => expect(gates.length).toBeGreaterThan(0));
      gates.shift()!();
    },
    other: () => (now = comp(now.revision + 1, addLayer(start, "e9", "theirs")[0])),
  };
}

const add = (name: string) => (d: CompDocument) => addLayer(d, "e1", name)[0];
const names = (d: CompDocument) => d.layers.map((l) => l.name);

describe("the document while it is worked on", () => {
  it("shows a draft without writing, and writes once on commit", async () => {
    const s = server();
    const store = createDocumentStore(comp(1, start), s.calls);
    store.getState().sketch(add("kite"));
    expect(names(store.getState().draft!)).toEqual(["kite"]);
    expect(s.writes).toEqual([]);
    store.getState().commit(add("kite"), "add kite");
    await s.open();
    await vi.waitFor(() => expect(store.getState().saving).toBe(false));
    expect(s.writes).toEqual(["add kite"]);
    expect(store.getState().comp.revision).toBe(2);
  });

  it("writes what is changed while a write is under way after it, on its revision", async () => {
    const s = server();
    const store = createDocumentStore(comp(1, start), s.calls);
    store.getState().commit(add("kite"), "add kite");
    store.getState().commit(add("lantern"), "add lantern");
    await s.open();
    await s.open();
    await vi.waitFor(() => expect(store.getState().saving).toBe(false));
    expect(store.getState().comp.revision).toBe(3);
    expect(names(documentOf(store.getState().comp.document))).toEqual(["kite", "lantern"]);
  });

  it("takes back what is still being saved once it is saved", async () => {
    const s = server();
    const store = createDocumentStore(comp(1, start), s.calls);
    store.getState().commit(add("kite"), "add kite");
    store.getState().undo();
    await s.open();
    await vi.waitFor(() => expect(store.getState().comp.revision).toBe(3));
    expect(names(store.getState().document)).toEqual([]);
  });

  it("puts what is changed while something is taken back on top of it", async () => {
    const s = server();
    const store = createDocumentStore(comp(1, add("old")(start)), s.calls);
    store.getState().undo();
    store.getState().commit(add("kite"), "add kite");
    await s.open();
    await vi.waitFor(() => expect(store.getState().comp.revision).toBe(3));
    expect(names(store.getState().document)).toEqual(["kite"]);
  });

  it("keeps a refused change on the screen until the person has chosen", async () => {
    const s = server();
    const store = createDocumentStore(comp(1, start), s.calls);
    s.other();
    store.getState().commit(add("mine"), "add mine");
    await s.open();
    await vi.waitFor(() => expect(store.getState().problem?.code).toBe("stale"));
    expect(names(store.getState().document)).toEqual(["mine"]);
    const insisting = store.getState().insist();
    await s.open();
    await insisting;
    expect(store.getState().problem).toBeNull();
    expect(names(store.getState().document)).toEqual(["mine"]);
  });

  it("takes the newest state when asked to", async () => {
    const s = server();
    const store = createDocumentStore(comp(1, start), s.calls);
    s.other();
    store.getState().commit(add("mine"), "add mine");
    await s.open();
    await vi.waitFor(() => expect(store.getState().problem).not.toBeNull());
    await store.getState().takeNewest();
    expect(names(store.getState().document)).toEqual(["theirs"]);
  });

  it("adopts what others saved, but not over changes of its own on their way", () => {
    const s = server();
    const store = createDocumentStore(comp(1, start), s.calls);
    store.getState().adopt(comp(2, add("theirs")(start)));
    expect(names(store.getState().document)).toEqual(["theirs"]);
    store.getState().commit(add("mine"), "add mine");
    store.getState().adopt(comp(3, start));
    expect(names(store.getState().document)).toEqual(["theirs", "mine"]);
  });
});
