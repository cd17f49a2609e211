/** Says that what is made here reaches beyond its canvas, where it is cut, and makes the canvas large enough. */
import { useQuery } from "@tanstack/react-query";
import { compCalls } from "../../api/comps";
import { layerOf, type MadeLayer } from "../../domain/comp";
import { changePart } from "../../domain/parts";
import { Button } from "../../ui/basics";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.CanvasNote;

interface Props {
  store: DocumentStore;
  layer: MadeLayer;
  comp: number;
}

export function CanvasNote({ store, layer: { id, name }, comp }: Props) {
  // not while something is dragged: as it was before
  const document = store((s) => s.document);
  const held = layerOf(document, id);
  const made = held?.kind === "made" ? held.made : null;
  const moves = made !== null && Object.keys(made.keys).length > 0;
  const frame = useDesk((d) => (moves ? d.frame : null)) ?? document.first;
  const found = useQuery({
    queryKey: ["canvas", comp, document.width, document.height, frame, made],
    queryFn: ({ signal }) => compCalls.canvas(comp, { document, frame, layer: id }, signal),
    enabled: made?.kind === "text" || made?.kind === "shape",
    retry: false,
  }).data;
  if (!found || (found.width === found.whole_width && found.height === found.whole_height)) return null;
  const whole = { canvas_width: found.whole_width, canvas_height: found.whole_height };
  return (
    <div className="space-y-1 pb-1.5">
      <p className="text-soft">{t.reachesBeyond(found.width, found.height)}</p>
      <Button
        className="min-h-6 px-1.5 py-0"
        onClick={() =>
          store.getState().commit((d) => changePart(d, id, { of: "made" }, whole), t.canvasOf(name))
        }
      >
        {t.enlarge(found.whole_width, found.whole_height)}
      </Button>
    </div>
  );
}
