/** The recipe's section Repeat: one layer many times, each a little different from the one before. */
import { changeLayer, type Layer, type Repeat } from "../../domain/comp";
import { Button } from "../../ui/basics";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import type { DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.RepeatSection;

interface Props {
  store: DocumentStore;
  layer: Layer;
}

/** What a new one begins with: two copies, the second beside the first. */
const FIRST: Repeat = {
  count: 2,
  x: 120,
  y: 0,
  scale: 1,
  rotation: 0,
  time: 0,
  opacity: 1,
  chance_x: 0,
  chance_y: 0,
  chance_scale: 0,
  chance_rotation: 0,
  chance_time: 0,
  chance_opacity: 0,
  seed: 0,
  order: "first-behind",
};

interface Row {
  field: Exclude<keyof Repeat, "order">;
  name: string;
  min?: number;
  max?: number;
  unit?: string;
  digits?: number;
  rest?: number;
}

const EACH: Row[] = [
  { field: "x", name: t.x, unit: "px" },
  { field: "y", name: t.y, unit: "px" },
  { field: "scale", name: t.scale, min: 0.02, max: 10, unit: "×", digits: 3, rest: 1 },
  { field: "rotation", name: t.rotation, unit: "°" },
  { field: "time", name: t.time, unit: "fr", digits: 0 },
  { field: "opacity", name: t.opacity, min: 0, max: 1, unit: "×", digits: 3, rest: 1 },
];

const CHANCE: Row[] = [
  { field: "chance_x", name: t.chanceX, min: 0, unit: "px" },
  { field: "chance_y", name: t.chanceY, min: 0, unit: "px" },
  { field: "chance_scale", name: t.chanceScale, min: 0, max: 0.9, digits: 2 },
  { field: "chance_rotation", name: t.chanceRotation, min: 0, max: 360, unit: "°" },
  { field: "chance_time", name: t.chanceTime, min: 0, unit: "fr", digits: 0 },
  { field: "chance_opacity", name: t.chanceOpacity, min: 0, max: 1, digits: 2 },
  { field: "seed", name: t.seed, min: 0, max: 999999, digits: 0 },
];

export const MOST_COPIES = 2000;

export const repeatInWords = ({ repeat }: Layer): string =>
  repeat ? (repeat.count === 1 ? t.once : t.times(repeat.count)) : t.once;

export function RepeatSection({ store, layer }: Props) {
  const { repeat } = layer;
  const change = (next: Repeat | null) =>
    store.getState().commit((d) => changeLayer(d, layer.id, { repeat: next }), t.repeatOf(layer.name));
  if (!repeat)
    return (
      <div className="space-y-1.5">
        <p className="text-soft">{t.copiesOfItAre}</p>
        <Button onClick={() => change(FIRST)}>{t.repeatIt}</Button>
      </div>
    );
  const field = (row: Row) => (
    <NumberField
      key={row.field}
      name={row.name}
      value={repeat[row.field]}
      min={row.min ?? -100000}
      max={row.max ?? 100000}
      unit={row.unit ?? ""}
      digits={row.digits ?? 1}
      rest={row.rest ?? 0}
      step={row.digits === 0 ? 1 : row.unit === "px" || row.unit === "°" ? 1 : 0.01}
      onCommit={(v) => change({ ...repeat, [row.field]: row.digits === 0 ? Math.round(v) : v })}
    />
  );
  return (
    <div className="space-y-1">
      {field({ field: "count", name: t.copies, min: 1, max: MOST_COPIES, digits: 0, rest: 2 })}
      <p className="pt-1 text-soft">{t.eachFurtherBy}</p>
      {EACH.map(field)}
      <p className="pt-1 text-soft">{t.andByChance}</p>
      {CHANCE.map(field)}
      <div className="flex min-h-7 items-center gap-2 pt-1">
        <span className="w-20 shrink-0 text-soft">{t.inFront}</span>
        <Segments<Repeat["order"]>
          name={t.inFront}
          small
          value={repeat.order}
          choices={[
            { value: "first-behind", label: t.last },
            { value: "first-in-front", label: t.first },
            { value: "larger-in-front", label: t.larger },
          ]}
          onChange={(order) => change({ ...repeat, order })}
        />
      </div>
      <Button onClick={() => change(null)}>{t.onceAgain}</Button>
    </div>
  );
}
