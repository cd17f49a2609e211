/** What of a comp a slot can stand for: pictures, texts, numbers and colours. */
import { type Layer } from "../../../domain/comp";
import { madeFields, type MadeTable } from "../MadeSection";
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

const madeFieldsOf = (layer: Layer, made: MadeTable[]) => {
  const table = layer.kind === "made" && made.find((m) => m.kind === layer.made.kind);
  return table ? madeFields(table) : [];
};

/** The places of one layer; ``tables``: what is known of steps, ``made``: of what is made here. */
export function placesIn(layer: Layer, tables: StepTable[], made: MadeTable[]): Place[] {
  const own: Place[] =
    layer.kind === "element" ? [{ step: null, field: "element", title: t.itsPicture, name: layer.name }] : [];
  const ofMade = madeFieldsOf(layer, made)
    .filter(([, f]) => f.unit !== undefined || f.type === "number" || f.type === "integer")
    .filter(([, f]) => !f.enum && f.type !== "boolean" && f.unit !== "font")
    .map(([field, f]) => ({
      step: null,
      field,
      title: t.itsOwn(f.title ?? field),
      name: field === "text" ? layer.name : (f.title ?? field),
    }));
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
  return [...own, ...ofMade, ...ofSteps];
}

/** Where a slot lies, in words. */
export function placeInWords(
  slot: { step: number | null; field: string },
  layer: Layer | undefined,
  tables: StepTable[],
  made: MadeTable[],
): string {
  if (!layer) return t.gone;
  const kind = slot.step === null ? undefined : layer.steps[slot.step]?.kind;
  const table = tables.find((x) => x.kind === kind);
  if (slot.step === null) {
    const own = madeFieldsOf(layer, made).find(([field]) => field === slot.field);
    return t.of(layer.name, own ? t.itsOwn(own[1].title ?? slot.field) : t.itsPicture);
  }
  if (!table) return t.gone;
  return t.of(
    layer.name,
    t.ofStep(slot.step + 1, table.title, fieldsOf(table)[slot.field]?.title ?? slot.field),
  );
}
