/** A card of the lineup: a layer's element, or a folded group's members, with its name and its frames. */
import { useQuery } from "@tanstack/react-query";
import { ChevronsRight, Lock } from "lucide-react";
import { memo, type KeyboardEvent, type PointerEvent, type ReactNode } from "react";
import type { ElementOut } from "../../api/client";
import { queries } from "../../api/queries";
import {
  elementsIn,
  lifeOf,
  type ElementLayer,
  type Group,
  type Layer,
  type MadeLayer,
} from "../../domain/comp";
import { seenAlone } from "../../domain/alone";
import { isComp } from "../../domain/compSource";
import { walk } from "../../domain/tree";
import { ElementPicture } from "../../parts/ElementPicture";
import { doubted, needsConfirming } from "../../domain/attention";
import { chooseCard, moveCard } from "./choosing";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { MadePicture } from "./MadePicture";
import { text } from "./strings";

const t = text.LayerCard;

interface CardProps {
  store: DocumentStore;
  /** Frames of the comp. */
  first: number;
  last: number;
  /** Ids of the groups that show their members. */
  open: string[];
  dragged: boolean;
  onPress: (event: PointerEvent, id: string) => void;
}

const wordsOf = (element: ElementOut | undefined) =>
  element && isComp(element) ? t.aComp : element?.has_alpha ? element.reading_words : t.noAlpha;

/** A layer that shows an element. */
export const LayerCard = memo(function LayerCard({
  layer,
  element,
  ...props
}: CardProps & { layer: ElementLayer; element: ElementOut | undefined }) {
  const doubt = element && doubted(element);
  return (
    <Card {...props} layer={layer}>
      {element ? (
        <ElementPicture element={element} className="h-14.5 w-full" />
      ) : (
        <span className="block h-14.5 bg-well p-2 text-error">{t.noElement}</span>
      )}
      <CardText {...props} layer={layer} words={wordsOf(element)}>
        {element && (doubt || needsConfirming(element)) && (
          <span
            role="img"
            aria-label={doubt ? t.thePixelsSpeakForAnother : t.itsReadingIsToBe}
            className="size-2.5 shrink-0 rounded-[2px] bg-warn"
            title={doubt ? t.thePixelsSpeakForAnother2 : t.itsReadingIsToBe2}
          />
        )}
      </CardText>
    </Card>
  );
});

/** A layer made here. */
export const MadeCard = memo(function MadeCard({ layer, ...props }: CardProps & { layer: MadeLayer }) {
  const title = useQuery(queries.tables()).data?.made.find((m) => m.kind === layer.made.kind)?.title ?? "";
  return (
    <Card {...props} layer={layer}>
      <MadePicture made={layer.made} className="h-14.5 w-full" />
      <CardText {...props} layer={layer} words={title.toLowerCase() || "\u00a0"} />
    </Card>
  );
});

/** A folded group: its members' elements side by side. */
export const GroupCard = memo(function GroupCard({
  group,
  elements,
  ...props
}: CardProps & { group: Group; elements: ElementOut[] }) {
  const members = walk<Layer>(group.layers);
  const pictures = elementsIn(group)
    .flatMap((key) => elements.find((e) => e.key === key) ?? [])
    .slice(0, 3);
  const open = () => useDesk.setState((d) => ({ opened: [...d.opened, group.id] }));
  return (
    <span className="relative block rounded-lg shadow-[4px_-4px_0_-1px_var(--line)]" onDoubleClick={open}>
      <Card {...props} layer={group}>
        <span className="flex h-14.5 w-full gap-px bg-well">
          {pictures.map((element) => (
            <ElementPicture key={element.key} element={element} className="h-full min-w-0 flex-1" />
          ))}
        </span>
        <CardText {...props} layer={group} words={t.layers(members.length)} />
      </Card>
      <button
        type="button"
        aria-label={t.open(group.name)}
        title={t.open(group.name)}
        onClick={open}
        className="absolute top-1 right-1 grid size-6 place-items-center rounded border border-line bg-card hover:text-accent"
      >
        <ChevronsRight className="size-4" />
      </button>
    </span>
  );
});

/** Alt with an arrow moves the card by a place. */
export function moveByKey(event: KeyboardEvent, store: DocumentStore, layer: Layer): void {
  if (!event.altKey || (event.key !== "ArrowLeft" && event.key !== "ArrowRight")) return;
  event.preventDefault();
  moveCard(store, layer, event.key === "ArrowLeft" ? -1 : 1);
}

/** How a card is called: by its name, and what is to be known of it. */
export function cardName(layer: Layer): string {
  const states = [layer.shown ? "" : t.andHidden, layer.locked ? t.andLocked : ""].join("");
  return (layer.kind === "group" ? t.group : t.layer)(layer.name, states);
}

function Card({
  store,
  layer,
  open,
  dragged,
  onPress,
  children,
}: CardProps & { layer: Layer; children: ReactNode }) {
  const chosen = useDesk((d) => d.layer === layer.id || d.also.includes(layer.id));
  const alone = useDesk((d) => d.alone);
  const left = !store(({ document }) => seenAlone(document, alone, layer.id));
  return (
    <button
      type="button"
      data-layer={layer.id}
      data-row={layer.id}
      data-dragged={dragged}
      aria-pressed={chosen}
      aria-label={cardName(layer)}
      title={t.dragToReorderAltFrom}
      onClick={(event) => chooseCard(event, layer.id, store.getState().document, open)}
      onKeyDown={(event) => moveByKey(event, store, layer)}
      className={`w-26 touch-none overflow-hidden rounded-lg border bg-card text-left aria-pressed:border-accent aria-pressed:ring-2 aria-pressed:ring-accent data-[dragged=true]:opacity-60 ${layer.shown ? "border-line" : "border-dashed border-soft opacity-60"} ${left ? "opacity-40" : ""}`}
      onPointerDown={(event) => onPress(event, layer.id)}
    >
      {children}
    </button>
  );
}

function CardText({
  layer,
  words,
  first,
  last,
  children,
}: Pick<CardProps, "first" | "last"> & { layer: Layer; words: string; children?: ReactNode }) {
  const chosen = useDesk((d) => d.layer === layer.id);
  const [from, to] = lifeOf({ first, last }, layer);
  const count = last - first + 1;
  return (
    <span className="block px-2 pt-0.5 pb-1.5">
      <span className="flex items-center gap-1">
        <span className="min-w-0 flex-1 truncate font-semibold" title={layer.name}>
          {layer.name}
        </span>
        {layer.locked && <Lock role="img" aria-label={t.locked} className="size-3 shrink-0 text-soft" />}
        {layer.repeat && (
          <span className="num shrink-0 text-[12px] text-soft" title={t.copies(layer.repeat.count)}>
            ×{layer.repeat.count}
          </span>
        )}
        {children}
      </span>
      <span className="block truncate text-[12px] text-soft" title={words}>
        {layer.shown ? words : t.hidden}
      </span>
      <span className="relative mt-1 block h-1 rounded bg-line" title={t.framesTo(from, to)}>
        <span
          className={`absolute h-full rounded ${chosen ? "bg-accent" : "bg-soft"}`}
          style={{
            left: `${(Math.max(0, from - first) / count) * 100}%`,
            width: `${(Math.max(0, Math.min(to, last) - Math.max(from, first) + 1) / count) * 100}%`,
          }}
        />
      </span>
    </span>
  );
}
