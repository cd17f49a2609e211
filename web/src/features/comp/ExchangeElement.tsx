/** What a layer shows, exchanged for another element or comp; everything else of the layer is kept. */
import { ChevronDown } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import type { ElementOut } from "../../api/client";
import { changeLayer, type ElementLayer } from "../../domain/comp";
import { differencesInWords } from "../../domain/words";
import type { DocumentStore } from "./documentStore";
import { ElementMenu } from "./ElementMenu";
import { text } from "./strings";

const t = text.ExchangeElement;

interface Props {
  store: DocumentStore;
  layer: ElementLayer;
  /** What layers can show. */
  elements: readonly ElementOut[];
}

export function ExchangeElement({ store, layer, elements }: Props) {
  const [before, setBefore] = useState<ElementOut | null>(null);
  const element = elements.find((e) => e.key === layer.element);
  const other =
    before?.facts && element?.facts && before.key !== element.key
      ? differencesInWords({ ...before.facts, rate: before.rate }, { ...element.facts, rate: element.rate })
      : [];
  function exchange(next: ElementOut) {
    if (next.key === layer.element) return;
    setBefore(element ?? null);
    store
      .getState()
      .commit((d) => changeLayer(d, layer.id, { element: next.key }), t.show(next.name, layer.name));
  }
  return (
    <>
      <ElementMenu
        side="bottom"
        elements={elements}
        rate={store.getState().document.rate}
        onChoose={exchange}
        trigger={
          <DropdownMenu.Trigger
            aria-label={t.shows(element?.name ?? t.gone)}
            title={t.tip}
            className="flex max-w-full items-center gap-1 rounded px-1.5 text-left text-soft hover:bg-well"
          >
            <span className={`truncate ${element ? "" : "text-error"}`}>{element?.name ?? t.gone}</span>
            <ChevronDown aria-hidden className="size-3.5 shrink-0" />
          </DropdownMenu.Trigger>
        }
      />
      {other.length > 0 && (
        <p role="status" className="mx-1.5 mt-0.5 text-soft">
          {t.differs(other.join(", "))}
        </p>
      )}
    </>
  );
}
