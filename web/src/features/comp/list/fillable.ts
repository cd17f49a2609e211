/** What of a comp a slot can stand for: pictures, numbers and colours. */
import { type Layer } from "../../../domain/comp";
import { fieldsOf, ownFields, type StepTable } from "../steps/table";
import { text } from "../strings";

const t = text.fillable;

export interface Place {
  step: number | null;
  field: string;
  /** Where it lies, in words. */
  title: string;
  /** What a slot there is called at first. */
  name: string;
}

/** The places of one layer; ``tables``: what is known of steps. */
export function placesIn(layer: Layer, tables: StepTable[]): Place[] {
  const own: Place[] =
    layer.kind === "group" ? [] : [{ step: null, field: "element", title: t.itsPicture, name: layer.name }];
  const ofSteps = layer.steps.flatMap((step, index) => {
    const table = tables.find((x) => x.kind === step.kind);
    if (!table) return [];
    return ownFields(table)
      .filter(
        ([, f]) => f.unit === "source" || f.unit === "rgb" || f.type === "number" || f.type === "integer",
      )
      .map(([field, f]) => ({
        step: index,
        field,
        title: t.ofStep(index + 1, table.title, f.title ?? field),
        name: f.unit === "source" ? layer.name : (f.title ?? field),
      }));
  });
  return [...own, ...ofSteps];
}

/** Where a slot lies, in words. */
export function placeInWords(
  slot: { step: number | null; field: string },
  layer: Layer | undefined,
  tables: StepTable[],
): string {
  if (!layer) return t.gone;
  const kind = slot.step === null ? undefined : layer.steps[slot.step]?.kind;
  const table = tables.find((x) => x.kind === kind);
  if (slot.step === null) return t.of(layer.name, t.itsPicture);
  if (!table) return t.gone;
  return t.of(
    layer.name,
    t.ofStep(slot.step + 1, table.title, fieldsOf(table)[slot.field]?.title ?? slot.field),
  );
}
