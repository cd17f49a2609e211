/** Named objects of a file with ID ranks: chosen from its list, or typed. */
import type { ElementOut } from "../../../../api/client";
import { elementsOfSource } from "../../../../domain/comp";
import { useQuery } from "@tanstack/react-query";
import { Plus, X } from "lucide-react";
import { useState } from "react";
import { useParams } from "react-router";
import { queries } from "../../../../api/queries";
import { Button, SignButton } from "../../../../ui/basics";
import { Line, ReadLine, type FieldsProps } from "./fields";
import { text } from "../../strings";

const t = text.ObjectFields;

/** Names of objects by the layer of ranks that tells them apart, of what a part takes. */
export function useObjects({
  store,
  layer,
  source,
}: Pick<FieldsProps<"object">, "store" | "layer"> & { source: string }) {
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  const layers = store((s) => s.document.layers);
  const keys = elementsOfSource({ layers }, source, layer);
  return elements.data?.find((e) => keys.includes(e.key) && hasObjects(e))?.facts?.objects ?? {};
}

const hasObjects = (element: ElementOut) => Object.keys(element.facts?.objects ?? {}).length > 0;

export function ObjectFields({ store, layer, part, index, set }: FieldsProps<"object">) {
  const known = useObjects({ store, layer, source: part.source });
  const [typed, setTyped] = useState("");
  const names = known[part.ranks] ?? Object.values(known)[0] ?? [];
  const found = names.filter(
    (n) => n.toLowerCase().includes(typed.trim().toLowerCase()) && !part.objects.includes(n),
  );
  const add = (name: string) => {
    if (!name || part.objects.includes(name)) return;
    const ranks = Object.keys(known).find((l) => known[l]!.includes(name)) ?? part.ranks;
    set({ objects: [...part.objects, name], ranks }, t.inTheMatte(name));
    setTyped("");
  };
  return (
    <>
      <ul aria-label={t.objectsOfThisPart} className="flex flex-wrap gap-1">
        {part.objects.map((name) => (
          <li
            key={name}
            className="flex max-w-full items-center rounded-md border border-line bg-card pl-1.5"
          >
            <span className="min-w-0 truncate" title={name}>
              {name}
            </span>
            <SignButton
              name={t.takeOut(name)}
              className="!min-h-6 !min-w-6"
              onClick={() => set({ objects: part.objects.filter((n) => n !== name) }, t.outOfTheMatte(name))}
            >
              <X className="size-3.5" />
            </SignButton>
          </li>
        ))}
      </ul>
      <form
        className="flex items-center gap-1"
        onSubmit={(event) => {
          event.preventDefault();
          add(found.length === 1 ? found[0]! : typed.trim());
        }}
      >
        <input
          aria-label={t.nameOfAnObjectFor(index + 1)}
          placeholder={t.nameOfAnObject}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          className="h-7 min-w-0 flex-1 rounded-md border border-line bg-card px-2"
        />
        <Button type="submit" className="px-1.5" aria-label={t.takeThisObjectIn} disabled={!typed.trim()}>
          <Plus className="size-3.5" />
        </Button>
      </form>
      {names.length === 0 ? (
        <p className="text-soft">{t.thisFileListsNoNames}</p>
      ) : (
        <ul
          aria-label={t.objectsInTheFile}
          className="max-h-40 overflow-auto rounded border border-line bg-card"
        >
          {found.slice(0, 200).map((name) => (
            <li key={name}>
              <button
                type="button"
                className="block w-full truncate px-2 py-0.5 text-left hover:bg-accent-soft"
                title={name}
                onClick={() => add(name)}
              >
                {name}
              </button>
            </li>
          ))}
        </ul>
      )}
      <ReadLine value={part.read} onChange={(read) => set({ read }, t.readingOfTheMatte)} />
      {!(part.ranks in known) && <Line name={t.ranks}>{part.ranks}</Line>}
    </>
  );
}
