/** Ends what is drawn and looked at once the layer, part or step that it belongs to is not there any more. */
import { useEffect } from "react";
import { layerOf } from "../../domain/comp";
import { matteOf, type Owner } from "../../domain/mattes";
import { partOf } from "../../domain/parts";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { toolOf } from "./drawing/hands";

/** Shows nothing: in a component of its own a chosen card does not render the desk again. */
export function LayerBound({ store }: { store: DocumentStore }) {
  const document = store((s) => s.document);
  const layer = useDesk((d) => d.layer);
  const set = useDesk((d) => d.set);
  // what is drawn and looked at belongs to the layer that is chosen
  useEffect(() => {
    const { tool, matteShown, board, matching } = useDesk.getState();
    if (matching && matching.layer !== layer) set({ matching: null });
    if (tool && tool.owner.layer !== layer)
      set({ tool: tool.kind === "place" && layer ? { ...tool, owner: { layer, step: null } } : null });
    if (board && board.owner.layer !== layer) set({ board: null });
    if (matteShown && matteShown.owner.layer !== layer) set({ matteShown: null });
  }, [layer, set]);
  // an undo may have taken away the part that is drawn on or looked at, or the place in the scene
  useEffect(() => {
    const { tool, matteShown } = useDesk.getState();
    const count = (owner: Owner) => matteOf(document, owner).parts.length;
    if (tool && "part" in tool && tool.part >= count(tool.owner)) set({ tool: null });
    if (tool && "path" in tool) {
      const held = layerOf(document, tool.owner.layer);
      const there = held && partOf(held, tool.path);
      // another form may be drawn by the same hand, points are not moved by it
      if (!there || (tool.kind !== "pick" && toolOf(held, tool.path)?.kind !== tool.kind))
        set({ tool: null });
    }
    if (tool?.kind === "distance" && !layerOf(document, tool.owner.layer)?.steps[tool.step])
      set({ tool: null });
    if (tool?.kind === "stand" && !layerOf(document, tool.owner.layer)?.card) set({ tool: null });
    if (matteShown && (matteShown.part ?? 0) >= count(matteShown.owner)) set({ matteShown: null });
  }, [document, set]);
  useEffect(() => {
    if (layer && !layerOf(document, layer)) set({ layer: null, also: [] });
  }, [layer, document, set]);
  return null;
}
