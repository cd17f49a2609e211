/** A matte as a short list: channels of layers and elements put together, then refined. */
import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { queries } from "../../../api/queries";
import type { Layer } from "../../../domain/comp";
import { addPart, matteOf, newPart, takes, withMatte, type Matte, type Owner } from "../../../domain/mattes";
import { Button } from "../../../ui/basics";
import { Tick } from "../../../ui/Tick";
import { AnimatedNumber } from "../AnimatedNumber";
import type { DocumentStore } from "../documentStore";
import { useSources } from "../steps/SourceField";
import { PartRow } from "./PartRow";

const REFINE: [string, number, [number, number], string][] = [
  ["specks", 0, [0, 500], "Regions of fewer pixels than this are dropped"],
  ["holes", 0, [0, 500], "Enclosed holes of fewer pixels than this are filled"],
  ["grow", -200, [-10, 10], "Above 0 grows, below 0 shrinks, by fractions of a pixel"],
  ["soften", 0, [0, 20], "Standard deviation"],
];

interface Props {
  store: DocumentStore;
  layer: Layer;
  step: number | null;
  /** How the one to whom it belongs is called: "kite", "Levels of kite". */
  called: string;
}

export function MatteEditor({ store, layer, step, called }: Props) {
  const tables = useQuery(queries.tables());
  const sources = useSources({ store, layer });
  const [open, setOpen] = useState<number | null>(null);
  const document = store((s) => s.document);
  const owner: Owner = { layer: layer.id, step };
  const matte = matteOf({ ...document, layers: [layer] }, owner);
  const change = (edit: (matte: Matte) => Matte, what: string) =>
    store.getState().commit((d) => withMatte(d, owner, edit), what);
  const own = { value: "", label: `${layer.name} itself` };
  // a layer that takes this one would close a circle
  const possible = sources.filter(
    (s) => !s.value.startsWith("layer:") || !takes(document, s.value.slice(6), layer.id),
  );
  return (
    <div className="space-y-1.5">
      {matte.parts.length === 0 && (
        <p className="text-soft">
          White keeps, black removes. Take the alpha, the luma or any other channel of a layer or an element.
        </p>
      )}
      {matte.parts.map((part, index) => (
        <PartRow
          key={index}
          {...{ store, layer, owner, part, index, called }}
          sources={[own, ...possible]}
          picks={tables.data?.picks ?? []}
          open={open === index}
          onToggle={() => setOpen(open === index ? null : index)}
        />
      ))}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button>
            <Plus className="size-3.5" /> Take a channel of …
          </Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            className="z-50 max-h-[60vh] w-72 overflow-auto rounded-md border border-line bg-card p-1 shadow-lg"
          >
            {[own, ...possible].map((s) => (
              <DropdownMenu.Item
                key={s.value}
                className="truncate rounded px-2 py-1 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none"
                onSelect={() => {
                  setOpen(matte.parts.length);
                  const channel = s.value ? "alpha" : "luma";
                  change((m) => addPart(m, newPart(s.value, { channel })), `matte of ${called}`);
                }}
              >
                {s.label}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {matte.parts.length > 0 && (
        <>
          {REFINE.map(([field, min, slider, help]) => (
            <AnimatedNumber
              key={field}
              {...{ store, layer, field, min, slider, help }}
              path={{ of: "matte", step, part: null }}
              what={`${field} of the matte of ${called}`}
              name={field}
              unit="px"
              max={field === "specks" || field === "holes" ? 1e6 : 200}
              step={field === "specks" || field === "holes" ? 1 : 0.1}
              digits={2}
              rest={0}
            />
          ))}
          <Tick
            label="inverted: keeps what it else would remove"
            checked={matte.inverted}
            onChange={(inverted) =>
              change((m) => ({ ...m, inverted }), `matte of ${called} ${inverted ? "inverted" : "as it was"}`)
            }
          />
          <Tick
            label="on"
            checked={matte.on}
            onChange={(on) => change((m) => ({ ...m, on }), `matte of ${called} ${on ? "on" : "off"}`)}
          />
        </>
      )}
    </div>
  );
}
