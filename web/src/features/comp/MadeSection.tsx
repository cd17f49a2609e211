/** What a layer made here is, and its parameters. */
import { useQuery } from "@tanstack/react-query";
import type { Tables } from "../../api/client";
import { queries } from "../../api/queries";
import { ofBeneath, type Made, type MadeLayer } from "../../domain/comp";
import { changePart } from "../../domain/parts";
import { CanvasNote } from "./CanvasNote";
import { ParameterField } from "./ParameterField";
import { HandButton } from "./drawing/HandButton";
import type { DocumentStore } from "./documentStore";
import type { Field } from "./steps/table";
import { text } from "./strings";

const t = text.MadeSection;

export type MadeTable = Tables["made"][number];

/** Fields without a control of their own. */
const OWN = new Set(["kind", "keys", "points"]);

/** The fields with a control, the canvas's size last. */
export const madeFields = (table: MadeTable): [string, Field][] =>
  Object.entries(table.fields as Record<string, Field>)
    .filter(([name]) => !OWN.has(name))
    .sort(([a], [b]) => Number(a.startsWith("canvas_")) - Number(b.startsWith("canvas_")));

/** What it is, in a few words. */
export function madeInWords(made: Made): string {
  if ("text" in made) return made.text.trim().split("\n")[0]?.slice(0, 40) || t.empty;
  return t.kinds[made.kind];
}

/** What it starts as. */
export function newMade(table: MadeTable): MadeLayer["made"] {
  const start = Object.entries(table.fields as Record<string, Field>).map(([name, f]) => [name, f.default]);
  return { ...Object.fromEntries(start), ...table.fresh, kind: table.kind } as MadeLayer["made"];
}

interface Props {
  store: DocumentStore;
  layer: MadeLayer;
  comp: number;
}

export function MadeSection({ store, layer, comp }: Props) {
  const table = useQuery(queries.tables()).data?.made.find((m) => m.kind === layer.made.kind);
  if (!table) return null;
  if (ofBeneath(layer)) return <p className="text-soft">{table.help}</p>;
  return (
    <div className="space-y-0.5">
      <HandButton layer={layer} path={{ of: "made" }} />
      <CanvasNote store={store} layer={layer} comp={comp} />
      {madeFields(table).map(([name, field]) => (
        <ParameterField
          key={name}
          {...{ store, layer, name, field }}
          path={{ of: "made" }}
          title={layer.name}
          value={(layer.made as unknown as Record<string, unknown>)[name]}
          onChange={(next) =>
            store
              .getState()
              .commit(
                (d) => changePart(d, layer.id, { of: "made" }, { [name]: next }),
                `${field.title} of ${layer.name}`,
              )
          }
        />
      ))}
    </div>
  );
}
