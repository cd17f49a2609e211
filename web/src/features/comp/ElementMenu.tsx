/** A list of what a layer can show, comps and elements, found by typing. */
import { DropdownMenu } from "radix-ui";
import { Fragment, useRef, useState, type KeyboardEvent, type ReactNode } from "react";
import type { ElementOut } from "../../api/client";
import { isComp } from "../../domain/compSource";
import { EVERYTHING, searched } from "../../domain/elementSearch";
import { FileDrop } from "../../parts/FileDrop";
import { ElementPicture } from "../../parts/ElementPicture";
import { AskRate } from "./AskRate";
import { text } from "./strings";

const t = text.ElementMenu;

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

interface Props {
  trigger: ReactNode;
  side: "top" | "bottom";
  elements: readonly ElementOut[];
  /** Of the comp: proposed for moving frames that give none, before they are chosen; without it nobody asks. */
  rate?: string;
  onChoose: (element: ElementOut) => void;
  /** What else is offered for the words that are typed. */
  besides?: (words: string) => ReactNode[];
}

export function ElementMenu({ trigger, side, elements, rate, onChoose, besides }: Props) {
  const [words, setWords] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const usable = elements.filter((e) => e.state === "ready");
  const ready = searched(usable, { ...EVERYTHING, words });
  const comps = ready.filter(isComp);
  const others = besides?.(words) ?? [];
  const [asked, setAsked] = useState<ElementOut | null>(null);
  function begin(element: ElementOut) {
    if (rate && element.facts && element.facts.kind !== "still" && !element.rate) setAsked(element);
    else onChoose(element);
  }
  return (
    <>
      {asked && rate && (
        <AskRate
          element={asked}
          rate={rate}
          onClose={() => setAsked(null)}
          onSaid={() => {
            onChoose(asked);
            setAsked(null);
          }}
        />
      )}
      <DropdownMenu.Root>
        <FileDrop onArrived={begin}>{trigger}</FileDrop>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            side={side}
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
            {others.length > 0 && (
              <>
                <DropdownMenu.Label className="px-1.5 pt-1 text-soft">{t.madeHere}</DropdownMenu.Label>
                <div className="grid grid-cols-2">{others}</div>
              </>
            )}
            {usable.length === 0 && <p className="p-2 text-soft">{t.importElementsFirstDropFiles}</p>}
            {usable.length > 0 && ready.length + others.length === 0 && (
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
