/** The lineup: the pile as a row of cards, far on the left, near on the right; dragging reorders it. */
import { ChevronsLeft, GalleryHorizontal, LayoutGrid } from "lucide-react";
import { memo, useMemo, useRef, type PointerEvent } from "react";
import { useShallow } from "zustand/react/shallow";
import type { ElementOut } from "../../api/client";
import { elementOf, layerOf, moveInto, type CompDocument, type Group, type Layer } from "../../domain/comp";
import { addPart, proposedChannel, threadsOf, withMatte, type Thread } from "../../domain/mattes";
import { lockOf } from "../../domain/locks";
import { holdersOf, placeOf, slotsOf } from "../../domain/tree";
import { SignButton } from "../../ui/basics";
import { useReorder } from "../../ui/useReorder";
import { AddLayer } from "./AddLayer";
import { cardsAreSmall, chooseCard, openGroups } from "./choosing";
import { useDesk } from "./deskState";
import { shownDocument, type DocumentStore } from "./documentStore";
import { GroupCard, LayerCard, MadeCard } from "./LayerCard";
import { SmallCard } from "./SmallCard";
import { PullLine, usePull } from "./mattes/pulling";
import { ROOM, Threads } from "./mattes/Threads";
import { text } from "./strings";

const t = text.Lineup;

interface Props {
  store: DocumentStore;
  elements: ElementOut[];
}

export const Lineup = memo(function Lineup({ store, elements }: Props) {
  const row = useRef<HTMLOListElement>(null);
  const document = store(shownDocument);
  // not what is chosen: choosing a card draws two cards, and not the lineup, while the same groups are open
  const open = useDesk(useShallow((d) => openGroups(document, d.opened, d.layer)));
  const slots = slotsOf<Layer>(document.layers, open);
  const asked = useDesk((d) => d.smallCards);
  const small = cardsAreSmall(document, open, asked);
  const { drag, begin } = useReorder(row, small ? "lines" : "x", (from, to) => {
    const layer = slots[from]?.layer;
    const place = placeOf(slots, from, to);
    const locked = layer ? lockOf(document, layer.id) : null;
    if (locked !== null) store.setState({ locked });
    else if (layer)
      store.getState().commit((d) => moveInto(d, layer.id, place.group, place.to), t.move(layer.name));
  });
  const threads = useMemo(() => threadsOf(document), [document]);
  const { pull, beginPull } = usePulledMattes(store, document, elements);

  const dragged = drag === null ? undefined : slots[drag.from]?.layer;
  const place = drag === null ? null : placeOf(slots, drag.from, drag.to);
  const shown = dragged && place ? moveInto(document, dragged.id, place.group, place.to) : document;
  return (
    <div className="relative shrink-0 border-t border-line bg-well">
      {/* threads arch through the same room: where there are any they say enough */}
      <div
        aria-hidden={threads.length > 0}
        className={`pointer-events-none absolute inset-x-0 flex justify-between py-1.5 pr-12 pl-3 text-soft ${threads.length > 0 && !small ? "opacity-0" : ""}`}
      >
        <span>{t.farThePlate}</span>
        <span>{t.theLensNear}</span>
      </div>
      <ol
        ref={row}
        aria-label={t.lineupFarToNear}
        className={`relative flex items-center px-3 pb-2.5 ${small ? "max-h-52 flex-wrap gap-1 overflow-y-auto" : "overflow-x-auto"}`}
        style={{ paddingTop: ROOM }}
      >
        {threads.length > 0 && !small && <Threads row={row} threads={threads} />}
        <Cards
          layers={shown.layers}
          {...{ store, elements, document, open, small, threads }}
          dragged={dragged?.id ?? null}
          onPress={begin}
          onPull={beginPull}
        />
        <li className={`shrink-0 ${small ? "ml-1" : "ml-3"}`}>
          <AddLayer store={store} elements={elements} small={small} />
        </li>
      </ol>
      <SignButton
        name={small ? t.largeCards : t.smallCards}
        aria-pressed={small}
        className="absolute top-0.5 right-2"
        onClick={() => useDesk.setState({ smallCards: !small })}
      >
        {small ? <LayoutGrid className="size-4" /> : <GalleryHorizontal className="size-4" />}
      </SignButton>
      {pull && <PullLine pull={pull} />}
    </div>
  );
});

function usePulledMattes(store: DocumentStore, document: CompDocument, elements: ElementOut[]) {
  const { pull, begin } = usePull((from, to) => {
    const [source, target] = [layerOf(document, from), layerOf(document, to)];
    if (!source || !target) return;
    const element = elements.find((e) => e.key === elementOf(source));
    const part = proposedChannel(`layer:${from}`, element);
    // a layer that takes its own source in a circle is refused by the server, which names the loop
    store
      .getState()
      .commit(
        (d) => withMatte(d, { layer: to, step: null }, (m) => addPart(m, part)),
        t.cuts(source.name, target.name),
      );
    useDesk.setState({ layer: to, also: [] });
  });
  return { pull, beginPull: begin };
}

interface CardsProps extends Props {
  layers: Layer[];
  document: CompDocument;
  /** Ids of the groups that show their members. */
  open: string[];
  /** Cards of one line each. */
  small: boolean;
  threads: Thread[];
  /** Id of the layer that is dragged. */
  dragged: string | null;
  onPress: (event: PointerEvent, id: string) => void;
  onPull: (event: PointerEvent, id: string) => void;
}

function Cards(props: CardsProps) {
  const { layers, open, small } = props;
  return layers.map((layer, index) => (
    <li key={layer.id} className={`relative flex items-center ${small ? "max-w-full" : "shrink-0"}`}>
      {index > 0 && !small && <Meets layer={layer} />}
      {layer.kind === "group" && open.includes(layer.id) ? (
        <OpenGroup {...props} group={layer} />
      ) : (
        <OneCard {...props} layer={layer} />
      )}
    </li>
  ));
}

function OneCard({
  layer,
  store,
  document,
  elements,
  open,
  dragged,
  small,
  threads,
  onPress,
  onPull,
}: CardsProps & { layer: Layer }) {
  const { first, last } = document;
  if (small)
    return (
      <SmallCard {...{ store, layer, elements, open, onPress, threads }} dragged={dragged === layer.id} />
    );
  const card = { store, first, last, open, onPress, dragged: dragged === layer.id };
  return (
    <span className="group relative">
      <button
        type="button"
        aria-label={t.matteFromDragOntoAnother(layer.name)}
        title={t.dragAThreadFromHere}
        tabIndex={-1}
        onPointerDown={(event) => onPull(event, layer.id)}
        className="absolute -top-1.5 left-1/2 z-10 size-3.5 -translate-x-1/2 cursor-crosshair touch-none rounded-full border-2 border-accent bg-card opacity-40 group-hover:opacity-100"
      />
      {layer.kind === "group" ? (
        <GroupCard {...card} group={layer} elements={elements} />
      ) : layer.kind === "made" ? (
        <MadeCard {...card} layer={layer} />
      ) : (
        <LayerCard {...card} layer={layer} element={elements.find((e) => e.key === layer.element)} />
      )}
    </span>
  );
}

/** An open group: a frame around its members' cards, with its name; they are composited together first. */
function OpenGroup({ group, ...props }: CardsProps & { group: Group }) {
  const chosen = useDesk((d) => d.layer === group.id || d.also.includes(group.id));
  const { document } = props;
  const fold = () => {
    const { opened, layer } = useDesk.getState();
    const inside = layer !== null && holdersOf<Layer>(document.layers, layer).some((g) => g.id === group.id);
    useDesk.setState({
      opened: opened.filter((id) => id !== group.id),
      also: [],
      ...(inside ? { layer: group.id } : {}),
    });
  };
  return (
    <span
      className={`relative flex items-center rounded-xl border-2 ${props.small ? "mt-2 flex-wrap pt-2 pb-1" : "py-1.5"} ${chosen ? "border-accent bg-accent-soft/50" : "border-soft bg-soft/15"} ${group.shown ? "" : "opacity-60"}`}
    >
      <button
        type="button"
        data-layer={group.id}
        aria-pressed={chosen}
        aria-label={t.group(group.name, group.shown ? "" : t.andHidden)}
        title={group.name}
        onClick={(event) => chooseCard(event, group.id, document, props.open)}
        className="absolute -top-2.5 left-2 z-10 max-w-40 truncate rounded bg-well px-1.5 text-[12px] leading-4 font-semibold aria-pressed:bg-accent aria-pressed:text-on-accent"
      >
        {group.name}
      </button>
      <button
        type="button"
        data-row={group.id}
        aria-label={t.fold(group.name)}
        title={t.fold(group.name)}
        onClick={fold}
        className={`mx-0.5 grid w-5 place-items-center rounded text-soft hover:bg-card hover:text-accent ${props.small ? "h-7" : "h-20"}`}
      >
        <ChevronsLeft className="size-4" />
      </button>
      <ol
        aria-label={t.membersOf(group.name)}
        className={`flex items-center ${props.small ? "min-w-0 flex-wrap gap-1" : ""}`}
      >
        <Cards {...props} layers={group.layers} />
        {group.layers.length === 0 && <li className="w-26 px-2 text-soft">{t.emptyDragACardIn}</li>}
      </ol>
      <span data-row={`end of ${group.id}`} className={`w-2.5 ${props.small ? "h-7" : "h-20"}`} />
    </span>
  );
}

function Meets({ layer }: { layer: Layer }) {
  return (
    <span className="w-16 px-0.5 text-center leading-tight" title={t.blendMode(layer.name, layer.operator)}>
      <span className="block truncate font-semibold">{layer.operator}</span>
      <span className="num block text-[12px] text-soft">{Math.round(layer.opacity * 100)} %</span>
    </span>
  );
}
