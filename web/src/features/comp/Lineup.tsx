/** The lineup: the pile as a row of cards, far on the left, near on the right; dragging reorders it. */
import { Plus } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { memo, useRef, useState, type PointerEvent } from "react";
import type { ElementOut } from "../../api/client";
import { AskRate } from "./AskRate";
import { addLayer, layerOf, lifeOf, moveLayer, type Layer } from "../../domain/comp";
import { addPart, proposedChannel, threadsOf, withMatte } from "../../domain/mattes";
import { doubted, ElementPicture, needsConfirming } from "../../parts/ElementPicture";
import { moved, useReorder } from "../../ui/useReorder";
import { useDesk } from "./deskState";
import { shownDocument, type DocumentStore } from "./documentStore";
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
  const { commit } = store.getState();
  const { drag, begin } = useReorder(row, "x", (from, to) => {
    const layer = document.layers[from];
    if (layer) commit((d) => moveLayer(d, layer.id, to), t.move(layer.name));
  });

  const threads = threadsOf(document);
  const { pull, begin: beginPull } = usePull((from, to) => {
    const [source, target] = [layerOf(document, from), layerOf(document, to)];
    if (!source || !target) return;
    // a layer that takes its own source in a circle is refused by the server, which names the loop
    commit(
      (d) =>
        withMatte(d, { layer: to, step: null }, (m) =>
          addPart(
            m,
            proposedChannel(
              `layer:${from}`,
              elements.find((e) => e.key === source.element),
            ),
          ),
        ),
      t.cuts(source.name, target.name),
    );
    useDesk.setState({ layer: to });
  });

  const shown = drag ? moved(document.layers, drag.from, drag.to) : document.layers;
  return (
    <div className="relative shrink-0 border-t border-line bg-well">
      {/* threads arch through the same room: where there are any they say enough */}
      <div
        aria-hidden={threads.length > 0}
        className={`pointer-events-none absolute inset-x-0 flex justify-between px-3 pt-1.5 text-soft ${threads.length > 0 ? "opacity-0" : ""}`}
      >
        <span>{t.farThePlate}</span>
        <span>{t.theLensNear}</span>
      </div>
      <ol
        ref={row}
        aria-label={t.lineupFarToNear}
        className="relative flex items-center overflow-x-auto px-3 pb-2.5"
        style={{ paddingTop: ROOM }}
      >
        {threads.length > 0 && <Threads row={row} threads={threads} />}
        {shown.map((layer, index) => (
          <li key={layer.id} className="relative flex shrink-0 items-center">
            <GroupFrame layers={shown} index={index} />
            {index > 0 && <Meets layer={layer} />}
            <span className="group relative">
              <button
                type="button"
                aria-label={t.matteFromDragOntoAnother(layer.name)}
                title={t.dragAThreadFromHere}
                tabIndex={-1}
                onPointerDown={(event) => beginPull(event, layer.id)}
                className="absolute -top-1.5 left-1/2 z-10 size-3.5 -translate-x-1/2 cursor-crosshair touch-none rounded-full border-2 border-accent bg-card opacity-40 group-hover:opacity-100"
              />
              <LayerCard
                store={store}
                layer={layer}
                first={document.first}
                last={document.last}
                element={elements.find((e) => e.key === layer.element)}
                dragged={drag !== null && layer === document.layers[drag.from]}
                onPress={begin}
              />
            </span>
          </li>
        ))}
        <li className="ml-3 shrink-0">
          <AddLayer store={store} elements={elements} />
        </li>
      </ol>
      {pull && <PullLine pull={pull} />}
    </div>
  );
});

/** The frame of a group around its cards: its layers are composited together first. */
function GroupFrame({ layers, index }: { layers: Layer[]; index: number }) {
  const { group } = layers[index]!;
  if (!group) return null;
  const first = layers[index - 1]?.group !== group;
  const last = layers[index + 1]?.group !== group;
  const ends = `${first ? "rounded-l-xl border-l-2" : ""} ${last ? "rounded-r-xl border-r-2" : ""}`;
  // before the first card stands how it is blended with what is behind the group
  const left = first ? (index > 0 ? "left-13" : "-left-1.5") : "left-0";
  return (
    <span
      className={`pointer-events-none absolute -inset-y-1.5 border-y-2 border-soft bg-soft/15 ${ends} ${left} ${last ? "-right-1.5" : "right-0"}`}
    >
      {first && (
        <span className="absolute -top-2 left-3 max-w-24 truncate rounded bg-well px-1 text-[12px] leading-4 text-soft">
          {group}
        </span>
      )}
    </span>
  );
}

function Meets({ layer }: { layer: Layer }) {
  return (
    <span className="w-14 px-1 text-center leading-tight" title={t.blendMode(layer.name, layer.operator)}>
      <span className="block truncate font-semibold">{layer.operator}</span>
      <span className="num block text-[12px] text-soft">{Math.round(layer.opacity * 100)} %</span>
    </span>
  );
}

interface CardProps {
  store: DocumentStore;
  layer: Layer;
  /** Frames of the comp. */
  first: number;
  last: number;
  element: ElementOut | undefined;
  dragged: boolean;
  onPress: (event: PointerEvent, id: string) => void;
}

const LayerCard = memo(function LayerCard(props: CardProps) {
  const { store, layer, first, last, element, dragged, onPress } = props;
  const chosen = useDesk((d) => d.layer === layer.id);
  const set = useDesk((d) => d.set);
  const [from, to] = lifeOf({ first, last }, layer);
  const count = last - first + 1;
  const move = (by: number) => {
    const { commit, document } = store.getState();
    const index = document.layers.findIndex((l) => l.id === layer.id);
    commit((d) => moveLayer(d, layer.id, index + by), t.move(layer.name));
  };
  return (
    <button
      type="button"
      data-layer={layer.id}
      data-row={layer.id}
      data-dragged={dragged}
      aria-pressed={chosen}
      aria-label={t.layer(layer.name, layer.shown ? "" : ", hidden")}
      title={t.dragToReorderAltFrom}
      onClick={() => set({ layer: layer.id })}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== "ArrowLeft" && event.key !== "ArrowRight")) return;
        event.preventDefault();
        move(event.key === "ArrowLeft" ? -1 : 1);
      }}
      className={`w-26 touch-none overflow-hidden rounded-lg border bg-card text-left aria-pressed:border-accent aria-pressed:ring-2 aria-pressed:ring-accent data-[dragged=true]:opacity-60 ${layer.shown ? "border-line" : "border-dashed border-soft opacity-60"}`}
      onPointerDown={(event) => onPress(event, layer.id)}
    >
      {element ? (
        <ElementPicture element={element} className="h-14.5 w-full" />
      ) : (
        <span className="block h-14.5 bg-well p-2 text-error">{t.noElement}</span>
      )}
      <span className="block px-2 pt-0.5 pb-1.5">
        <span className="flex items-center gap-1">
          <span className="min-w-0 flex-1 truncate font-semibold" title={layer.name}>
            {layer.name}
          </span>
          {element && (doubted(element) || needsConfirming(element)) && (
            <span
              role="img"
              aria-label={doubted(element) ? t.thePixelsSpeakForAnother : t.itsReadingIsToBe}
              className="size-2.5 shrink-0 rounded-[2px] bg-warn"
              title={doubted(element) ? t.thePixelsSpeakForAnother2 : t.itsReadingIsToBe2}
            />
          )}
        </span>
        <span className="block truncate text-[12px] text-soft" title={element?.reading_words}>
          {layer.shown ? (element?.has_alpha ? element.reading_words : t.noAlpha) : t.hidden}
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
    </button>
  );
});

function AddLayer({ store, elements }: { store: DocumentStore; elements: ElementOut[] }) {
  const set = useDesk((d) => d.set);
  const ready = elements.filter((e) => e.state === "ready");
  const [asked, setAsked] = useState<ElementOut | null>(null);
  function begin(element: ElementOut) {
    if (element.facts && element.facts.kind !== "still" && !element.rate) setAsked(element);
    else add(element);
  }
  function add(element: ElementOut) {
    const name = element.name.replace(/[._-]*#*\.[a-z0-9]+$/i, "") || element.name;
    const [, id] = addLayer(store.getState().document, element.key, name);
    store.getState().commit((d) => addLayer(d, element.key, name)[0], t.add(name));
    set({ layer: id });
  }
  return (
    <>
      {asked && (
        <AskRate
          element={asked}
          rate={store.getState().document.rate}
          onClose={() => setAsked(null)}
          onSaid={() => {
            add(asked);
            setAsked(null);
          }}
        />
      )}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label={t.addALayer}
          className="grid h-24 w-11 place-items-center rounded-lg border border-dashed border-soft text-soft hover:border-accent hover:text-accent"
        >
          <Plus className="size-5" />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            side="top"
            align="start"
            className="z-50 max-h-[min(60vh,var(--radix-dropdown-menu-content-available-height))] w-72 overflow-auto rounded-md border border-line bg-card p-1 shadow-lg"
          >
            {ready.length === 0 && <p className="p-2 text-soft">{t.importElementsFirstDropFiles}</p>}
            {ready.map((element) => (
              <DropdownMenu.Item
                key={element.id}
                onSelect={() => begin(element)}
                className="flex items-center gap-2 rounded p-1.5 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none"
              >
                <ElementPicture element={element} className="h-9 w-16 shrink-0 rounded" />
                <span className="min-w-0 [overflow-wrap:anywhere]">{element.name}</span>
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </>
  );
}
