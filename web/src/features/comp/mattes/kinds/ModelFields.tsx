/** Controls of a kind of part that has none of its own on the page: they follow from what its fields say. */
import { useQuery } from "@tanstack/react-query";
import type { Tables } from "../../../../api/client";
import { queries } from "../../../../api/queries";
import type { Part, PartChange } from "../../../../domain/mattes";
import { Choose } from "../../../../ui/Choose";
import { Tick } from "../../../../ui/Tick";
import type { Field } from "../../steps/table";
import { Line, PartNumber, type FieldsProps } from "./fields";

export type PartTable = Tables["parts"][number];

/** Fields that every part has, which stand apart from its own. */
const COMMON = new Set([
  "kind",
  "on",
  "combine",
  "inverted",
  "first",
  "last",
  "keys",
  "source",
  "read",
  "fit",
]);

const fieldsOf = (table: PartTable) => table.fields as Record<string, Field>;

/** A new part of a kind, as its fields begin. */
export function newPart(table: PartTable): Part {
  const defaults = Object.entries(fieldsOf(table)).map(([name, field]) => [name, field.default]);
  return { ...Object.fromEntries(defaults), kind: table.kind } as Part;
}

type Props = Omit<FieldsProps<Part["kind"]>, "part" | "set"> & {
  part: Part;
  set: (change: PartChange, what: string) => void;
};

export function ModelFields({ part, set, ...rest }: Props) {
  const tables = useQuery(queries.tables());
  const table = tables.data?.parts.find((p) => p.kind === part.kind);
  if (!table) return null;
  const values = part as unknown as Record<string, unknown>;
  return Object.entries(fieldsOf(table))
    .filter(([name]) => !COMMON.has(name))
    .map(([name, field]) => {
      const title = field.title ?? name;
      const change = (value: unknown) => set({ [name]: value }, title);
      if (field.enum) {
        return (
          <Line key={name} name={title} help={field.description}>
            <Choose
              name={title}
              value={String(values[name])}
              options={field.enum.map((v) => ({ value: v, label: field.labels?.[v] ?? v }))}
              onChange={change}
            />
          </Line>
        );
      }
      if (field.type === "boolean")
        return <Tick key={name} label={title} checked={Boolean(values[name])} onChange={change} />;
      if (field.type !== "number" && field.type !== "integer") return null;
      const [low, high] = [field.minimum ?? -1e5, field.maximum ?? 1e5];
      return (
        <PartNumber
          key={name}
          of={rest}
          field={name}
          name={title}
          help={field.description}
          min={low}
          max={high}
          slider={field.slider}
          step={field.type === "integer" ? 1 : 0.1}
          digits={field.type === "integer" ? 0 : 2}
          rest={Number(field.default)}
          unit={field.unit}
        />
      );
    });
}
