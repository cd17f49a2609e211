/** A card of one line, where there are many: a picture the size of a sign, the name, and how it is merged. */
import { ChevronsRight, Lock } from "lucide-react";
import { memo, type PointerEvent } from "react";
import type { ElementOut } from "../../api/client";
import { seenAlone } from "../../domain/alone";
import { elementsIn, type Layer } from "../../domain/comp";
import type { Thread } from "../../domain/mattes";
import { ElementPicture } from "../../parts/ElementPicture";
import { chooseCard } from "./choosing";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { cardName, moveByKey } from "./LayerCard";
import { MadePicture } from "./MadePicture";
import { text } from "./strings";

const t = text.LayerCard;

interface Props {
  store: DocumentStore;
  layer: Layer;
  elements: ElementOut[];
  open: string[];
  threads: Thread[];
  dragged: boolean;
  onPress: (event: PointerEvent, id: string) => void;
}

export const SmallCard = memo(function SmallCard(props: Props) {
  const { store, layer, elements, open, threads, dragged, onPress } = props;
  const chosen = useDesk((d) => d.layer === layer.id || d.also.includes(layer.id));
  const alone = useDesk((d) => d.alone);
  // the threads themselves have no room here: those that the chosen layer is tied to are marked
  const tied = useDesk((d) =>
    threads.some(
      (x) => (x.from === d.layer && x.to === layer.id) || (x.to === d.layer && x.from === layer.id),
    ),
  );
  const left = !store(({ document }) => seenAlone(document, alone, layer.id));
  const merged =
    layer.operator === "over" && layer.opacity === 1
      ? ""
      : `${layer.operator}, ${Math.round(layer.opacity * 100)} %`;
  const element = elements.find((e) => e.key === elementsIn(layer)[0]);
  const border = chosen
    ? "border-accent ring-1 ring-accent"
    : tied
      ? "border-accent border-dashed"
      : "border-line";
  return (
    <button
      type="button"
      data-layer={layer.id}
      data-row={layer.id}
      data-dragged={dragged}
      aria-pressed={chosen}
      aria-label={cardName(layer)}
      title={[layer.name, merged, tied ? t.tied : ""].filter(Boolean).join("; ")}
      onClick={(event) => chooseCard(event, layer.id, store.getState().document, open)}
      onDoubleClick={() =>
        layer.kind === "group" && useDesk.setState((d) => ({ opened: [...d.opened, layer.id] }))
      }
      onKeyDown={(event) => moveByKey(event, store, layer)}
      onPointerDown={(event) => onPress(event, layer.id)}
      className={`flex h-7 w-24 touch-none items-center gap-1 overflow-hidden rounded-md border bg-card pr-1 text-left text-[12px] data-[dragged=true]:opacity-60 ${border} ${layer.shown ? "" : "opacity-60"} ${left ? "opacity-40" : ""}`}
    >
      {layer.kind === "made" ? (
        <MadePicture tiny made={layer.made} className="h-full w-7 shrink-0" />
      ) : element ? (
        <ElementPicture element={element} className="h-full w-7 shrink-0" />
      ) : (
        <span className="h-full w-7 shrink-0 bg-well" />
      )}
      <span className={`min-w-0 flex-1 truncate ${layer.shown ? "" : "line-through"}`}>{layer.name}</span>
      {merged && <span aria-hidden className="size-1.5 shrink-0 rounded-full bg-soft" />}
      {layer.locked && <Lock aria-hidden className="size-3 shrink-0 text-soft" />}
      {layer.kind === "group" && <ChevronsRight aria-hidden className="size-3 shrink-0 text-soft" />}
    </button>
  );
});
