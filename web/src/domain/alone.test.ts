import { describe, expect, it } from "vitest";
import { aloneIn, seenAlone, shownAlone } from "./alone";
import { addLayer, addMade, groupLayers, layerOf, newDocument, type CompDocument, type Layer } from "./comp";
import { walk } from "./tree";

function comp(): { document: CompDocument; ids: Record<string, string> } {
  let document = newDocument("Dusk", { width: 20, height: 10 }, "25", 8);
  const ids: Record<string, string> = {};
  for (const name of ["plate", "kite", "string", "caption"])
    [document, ids[name]] = addLayer(document, "e1", name);
  const [grouped, group] = groupLayers(document, [ids["kite"]!, ids["string"]!]);
  return { document: grouped, ids: { ...ids, group: group! } };
}

/** Names of what is drawn: of a hidden group nothing is. */
const shown = (document: CompDocument) => {
  const names = (layers: Layer[]): string[] =>
    layers.filter((l) => l.shown).flatMap((l) => [l.name, ...(l.kind === "group" ? names(l.layers) : [])]);
  return names(document.layers);
};

describe("layers shown alone", () => {
  const { document, ids } = comp();

  it("hides all others, and no group around one of them", () => {
    const group = layerOf(document, ids["group"]!)!.name;
    expect(shown(shownAlone(document, [ids["kite"]!])).toSorted()).toEqual(["kite", group].toSorted());
    expect(shown(shownAlone(document, [ids["plate"]!, ids["caption"]!])).toSorted()).toEqual([
      "caption",
      "plate",
    ]);
    expect(shown(shownAlone(document, [ids["group"]!])).toSorted()).toEqual(
      ["kite", "string", group].toSorted(),
    );
  });

  it("keeps what an adjustment changes", () => {
    const made = { kind: "beneath", keys: {}, canvas_width: 0, canvas_height: 0 } as const;
    const [adjusted, id] = addMade(document, made, "adjustment");
    const [topped] = addLayer(adjusted, "e1", "strap");
    expect(shown(shownAlone(topped, [id]))).toEqual(shown(document).concat("adjustment"));
    expect(seenAlone(topped, [id], ids["plate"]!)).toBe(true);
  });

  it("leaves the document as it is, where none of them is there any more too", () => {
    const before = structuredClone(document);
    shownAlone(document, [ids["kite"]!]);
    expect(document).toEqual(before);
    expect(shownAlone(document, ["gone"])).toBe(document);
    expect(aloneIn(document, ["gone", ids["kite"]!])).toEqual([ids["kite"]]);
  });

  it("tells which layers are seen, as the document that is drawn does", () => {
    for (const alone of [[ids["kite"]!], [ids["group"]!], [ids["plate"]!, ids["string"]!]]) {
      const seen = new Set(shown(shownAlone(document, alone)));
      for (const layer of walk(document.layers))
        expect(seenAlone(document, alone, layer.id), `${layer.name} of ${alone.join()}`).toBe(
          seen.has(layer.name),
        );
    }
  });
});
