/** The last place of the lineup: choosing what a new layer shows. */
import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { Fragment, useRef, useState, type KeyboardEvent } from "react";
import type { ElementOut } from "../../api/client";
import { queries } from "../../api/queries";
import { addLayer, addMade } from "../../domain/comp";
import { isComp } from "../../domain/compSource";
import { EVERYTHING, holdsWords, searched } from "../../domain/elementSearch";
import { ElementPicture } from "../../parts/ElementPicture";
import { AskRate } from "./AskRate";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { MadePicture } from "./MadePicture";
import { newMade, type MadeTable } from "./MadeSection";
import { text } from "./strings";

const t = text.AddLayer;

/** What is typed anywhere in the open list is searched for; the menu's own keys stay its own. */
function typedInto(field: HTMLInputElement | null, event: KeyboardEvent<HTMLElement>) {
  if (!field) return;
  const inField = event.target === field;
  const items = () => field.closest("[role=menu]")!.querySelectorAll<HTMLElement>("[role=menuitem]");
  if (inField && event.key === "Enter") {
    event.preventDefault();
    event.stopPropagation();
    items()[0]?.click();
  } else if (inField && event.key === "ArrowDown") {
    event.preventDefault();
    event.stopPropagation();
    items()[0]?.focus();
  } else if (
    event.key.length === 1 &&
    event.key !== " " &&
    !event.ctrlKey &&
    !event.metaKey &&
    !event.altKey
  ) {
    event.stopPropagation();
    field.focus();
  } else if (inField && event.key !== "Escape" && event.key !== "Tab") {
    event.stopPropagation();
  }
}

export function AddLayer({ store, elements }: { store: DocumentStore; elements: ElementOut[] }) {
  const set = useDesk((d) => d.set);
  const [words, setWords] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const usable = elements.filter((e) => e.state === "ready");
  const ready = searched(usable, { ...EVERYTHING, words });
  const comps = ready.filter(isComp);
  const made = useQuery(queries.tables()).data?.made ?? [];
  const kinds = made.filter((table) => holdsWords(table.title, words));
  const [asked, setAsked] = useState<ElementOut | null>(null);
  function begin(element: ElementOut) {
    if (element.facts && element.facts.kind !== "still" && !element.rate) setAsked(element);
    else add(element);
  }
  function add(element: ElementOut) {
    const name = element.name.replace(/[._-]*#*\.[a-z0-9]+$/i, "") || element.name;
    const [, id] = addLayer(store.getState().document, element.key, name);
    store.getState().commit((d) => addLayer(d, element.key, name)[0], t.add(name));
    set({ layer: id, also: [] });
  }
  function make(table: MadeTable) {
    const [, id] = addMade(store.getState().document, newMade(table), table.title);
    store.getState().commit((d) => addMade(d, newMade(table), table.title)[0], t.add(table.title));
    set({ layer: id, also: [], section: "made" });
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
            onKeyDownCapture={(event) => typedInto(field.current, event)}
            onCloseAutoFocus={() => setWords("")}
            className="z-50 max-h-[min(60vh,var(--radix-dropdown-menu-content-available-height))] w-72 overflow-auto rounded-md border border-line bg-card p-1 shadow-lg"
          >
            <input
              ref={field}
              type="text"
              aria-label={t.find}
              placeholder={t.find}
              value={words}
              onChange={(event) => setWords(event.target.value)}
              className="sticky top-0 z-10 mb-1 h-7 w-full rounded-md border border-line bg-card px-2"
            />
            {kinds.length > 0 && (
              <DropdownMenu.Label className="px-1.5 pt-1 text-soft">{t.madeHere}</DropdownMenu.Label>
            )}
            <div className="grid grid-cols-2">
              {kinds.map((table) => (
                <DropdownMenu.Item
                  key={table.kind}
                  title={table.help}
                  onSelect={() => make(table)}
                  className="flex items-center gap-2 rounded p-1.5 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none"
                >
                  <MadePicture plain made={newMade(table)} className="h-7 w-10 shrink-0 rounded" />
                  {table.title}
                </DropdownMenu.Item>
              ))}
            </div>
            {usable.length === 0 && <p className="p-2 text-soft">{t.importElementsFirstDropFiles}</p>}
            {usable.length > 0 && ready.length + kinds.length === 0 && (
              <p className="p-2 text-soft">{t.nothingFound}</p>
            )}
            {[...comps, ...ready.filter((e) => !isComp(e))].map((element, i) => (
              <Fragment key={element.key}>
                {(i === 0 || i === comps.length) && (
                  <DropdownMenu.Label className="px-1.5 pt-1 text-soft">
                    {i < comps.length ? t.comps : t.elements}
                  </DropdownMenu.Label>
                )}
                <DropdownMenu.Item
                  onSelect={() => begin(element)}
                  className="flex items-center gap-2 rounded p-1.5 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none"
                >
                  <ElementPicture element={element} className="h-9 w-16 shrink-0 rounded" />
                  <span className="min-w-0 [overflow-wrap:anywhere]">{element.name}</span>
                </DropdownMenu.Item>
              </Fragment>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </>
  );
}
