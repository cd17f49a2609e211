/** The last place of the lineup: choosing what a new layer shows. */
import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ElementOut } from "../../api/client";
import { queries } from "../../api/queries";
import { addLayer, addMade } from "../../domain/comp";
import { holdsWords } from "../../domain/elementSearch";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { ElementMenu } from "./ElementMenu";
import { MadePicture } from "./MadePicture";
import { newMade, type MadeTable } from "./MadeSection";
import { text } from "./strings";

const t = text.AddLayer;

interface Props {
  store: DocumentStore;
  elements: ElementOut[];
  /** As high as cards of one line. */
  small?: boolean;
}

export function AddLayer({ store, elements, small = false }: Props) {
  const set = useDesk((d) => d.set);
  const made = useQuery(queries.tables()).data?.made ?? [];
  function add(element: ElementOut) {
    const name = element.name.replace(/[._-]*#*\.[a-z0-9]+$/i, "") || element.name;
    const [, id] = addLayer(store.getState().document, element.key, name);
    store.getState().commit((d) => addLayer(d, element.key, name)[0], t.add(name));
    set({ layer: id, also: [] });
  }
  function make(table: MadeTable) {
    const [, id] = addMade(store.getState().document, newMade(table), table.title);
    store.getState().commit((d) => addMade(d, newMade(table), table.title)[0], t.add(table.title));
    set({ layer: id, also: [], section: table.kind === "beneath" ? "steps" : "made" });
  }
  return (
    <ElementMenu
      side="top"
      elements={elements}
      rate={store.getState().document.rate}
      onChoose={add}
      trigger={
        <DropdownMenu.Trigger
          aria-label={t.addALayer}
          className={`grid ${small ? "h-7" : "h-24"} w-11 place-items-center rounded-lg border border-dashed border-soft text-soft hover:border-accent hover:text-accent`}
        >
          <Plus className="size-5" />
        </DropdownMenu.Trigger>
      }
      besides={(words) =>
        made
          .filter((table) => holdsWords(table.title, words))
          .map((table) => (
            <DropdownMenu.Item
              key={table.kind}
              title={table.help}
              onSelect={() => make(table)}
              className="flex items-center gap-2 rounded p-1.5 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none"
            >
              <MadePicture plain made={newMade(table)} className="h-7 w-10 shrink-0 rounded" />
              {table.title}
            </DropdownMenu.Item>
          ))
      }
    />
  );
}
