/** The slots: what a row fills, with its default; another is added by its layer and what of it. */
import { useQuery } from "@tanstack/react-query";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import type { SlotOut } from "../../../api/comps";
import { queries } from "../../../api/queries";
import { allLayers, layerOf } from "../../../domain/comp";
import { addSlot, freeName, removeSlot, renameSlot } from "../../../domain/list";
import { Button, SignButton } from "../../../ui/basics";
import { Choose } from "../../../ui/Choose";
import { useDesk } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { text } from "../strings";
import { placeInWords, placesIn } from "./fillable";

const t = text.SlotsColumn;
/** As of the document's schema. */
const NAME = /^[A-Za-z][A-Za-z0-9_ -]{0,39}$/;

export function SlotsColumn({ store, known }: { store: DocumentStore; known: SlotOut[] }) {
  const document = store((s) => s.document);
  const { commit } = store.getState();
  const all = useQuery(queries.tables()).data;
  const [tables, made] = [all?.steps ?? [], all?.made ?? []];
  return (
    <section
      aria-label={t.slots}
      className="flex w-72 shrink-0 flex-col overflow-auto border-r border-line p-3"
    >
      <h3 className="font-semibold">{t.slots}</h3>
      <p className="text-soft">{t.whatARowFills}</p>
      <ul className="mt-2 space-y-2">
        {document.slots.map((slot, index) => {
          const told = known[index];
          return (
            <li key={index} className="rounded-md border border-line bg-card p-2">
              <div className="flex items-center gap-1">
                <SlotName
                  key={slot.name}
                  name={slot.name}
                  onChange={(name) => commit((d) => renameSlot(d, index, name), t.nameOf(slot.name))}
                />
                <SignButton
                  name={t.takeOut(slot.name)}
                  onClick={() => commit((d) => removeSlot(d, index), t.takeOut(slot.name))}
                >
                  <Trash2 className="size-3.5" />
                </SignButton>
              </div>
              <p className="break-words text-soft">
                {placeInWords(slot, layerOf(document, slot.layer), tables, made)}
              </p>
              {told?.problem && <p className="text-error">{told.problem}</p>}
            </li>
          );
        })}
      </ul>
      <NewSlot store={store} />
    </section>
  );
}

function SlotName({ name, onChange }: { name: string; onChange: (name: string) => void }) {
  const [typed, setTyped] = useState(name);
  const fits = NAME.test(typed);
  return (
    <input
      aria-label={t.nameOf(name)}
      aria-invalid={!fits}
      title={fits ? undefined : t.lettersAndDigits}
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => (fits ? onChange(typed) : setTyped(name))}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      className="h-7 min-w-0 flex-1 rounded-md border border-line bg-panel px-2 font-medium aria-invalid:border-error"
    />
  );
}

function NewSlot({ store }: { store: DocumentStore }) {
  const document = store((s) => s.document);
  const chosen = useDesk((d) => d.layer);
  const all = useQuery(queries.tables()).data;
  const [tables, made] = [all?.steps ?? [], all?.made ?? []];
  const layers = allLayers(document);
  const [picked, setPicked] = useState<string | null>(null);
  const layer = layerOf(document, picked ?? chosen) ?? layers.at(-1);
  if (!layer) return <p className="mt-3 text-soft">{t.aCompWithoutLayers}</p>;
  const places = placesIn(layer, tables, made);
  return (
    <div className="mt-3 space-y-1.5 border-t border-line pt-3">
      <h4 className="font-medium">{t.anotherSlot}</h4>
      <div className="flex">
        <Choose
          name={t.layer}
          value={layer.id}
          options={layers.map((l) => ({ value: l.id, label: l.name }))}
          onChange={setPicked}
        />
      </div>
      <ul className="space-y-1">
        {places.map((place) => {
          const taken = document.slots.some(
            (s) => s.layer === layer.id && s.step === place.step && s.field === place.field,
          );
          const { step, field } = place;
          const slot = { name: freeName(document, place.name), layer: layer.id, step, field };
          return (
            <li key={`${step}.${field}`}>
              <Button
                disabled={taken}
                className="w-full !justify-start"
                onClick={() =>
                  store.getState().commit((d) => addSlot(d, slot), t.slotFor(place.title, layer.name))
                }
              >
                <Plus className="size-3.5 shrink-0" />
                <span className="truncate">{place.title}</span>
              </Button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
