/** Where a layer that stands in a scene is seen: asked of the server, which knows the camera. */
import { useQuery } from "@tanstack/react-query";
import { compCalls, type PlaceOut } from "../../../api/comps";
import { layerOf, type CompDocument } from "../../../domain/comp";
import { holdersOf } from "../../../domain/tree";

/** Nothing for a layer that is flat, and until it is known. */
export function usePlace(
  comp: number,
  document: CompDocument,
  id: string,
  frame: number,
): PlaceOut | undefined {
  const layer = layerOf(document, id);
  // with the groups that hold it
  const lies = [...holdersOf(document.layers, id), layer].map((l) => [l?.card, l?.transform]);
  const found = useQuery({
    queryKey: ["place", comp, id, frame, document.camera, lies],
    queryFn: ({ signal }) => compCalls.place(comp, { document, frame, layer: id }, signal),
    enabled: !!layer?.card,
    placeholderData: (before) => before,
  });
  return layer?.card ? found.data : undefined;
}
