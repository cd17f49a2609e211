/** A number of a layer that may have a curve: typed, dragged, nudged; with the sign of its keys. */
import { memo } from "react";
import { layerOf, type Layer } from "../../domain/comp";
import { changePart, numberAt, partOf, restingNumber, toggledKey, type PartPath } from "../../domain/parts";
import { KeyToggle } from "../../parts/KeyToggle";
import { NumberField, type NumberProps } from "../../ui/NumberField";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { numberEdit } from "./numberEdit";
import { text } from "./strings";

const t = text.AnimatedNumber;

export interface AnimatedNumberProps extends Omit<
  NumberProps,
  "value" | "after" | "onDraft" | "onCommit" | "rest"
> {
  store: DocumentStore;
  layer: Layer;
  path: PartPath;
  /** The number's name in its part; of a colour or a point with its place, as `gain.1`. */
  field: string;
  /** Said in the list of undo: "gamma of Levels". */
  what: string;
  rest: number;
  /** What is shown is the number times this. */
  factor?: number;
  whole?: boolean;
  /** Whether it takes no keys. */
  still?: boolean;
}

/** While another number of the layer is dragged this one is not drawn again. */
function alike(a: AnimatedNumberProps, b: AnimatedNumberProps): boolean {
  const names = Object.keys({ ...a, ...b }) as (keyof AnimatedNumberProps)[];
  const same = names.every((n) => n === "layer" || n === "path" || a[n] === b[n] || bothEqual(a[n], b[n]));
  if (!same || a.layer.id !== b.layer.id || JSON.stringify(a.path) !== JSON.stringify(b.path)) return false;
  const [one, two] = [partOf(a.layer, a.path), partOf(b.layer, b.path)];
  if (!one || !two) return one === two;
  return (
    one.keys[a.field] === two.keys[a.field] && restingNumber(one, a.field) === restingNumber(two, a.field)
  );
}

const bothEqual = (a: unknown, b: unknown) => Array.isArray(a) && Array.isArray(b) && a.join() === b.join();

export const AnimatedNumber = memo(function AnimatedNumber(props: AnimatedNumberProps) {
  const { store, layer, path, field, what, rest, factor = 1, whole, still, ...shown } = props;
  const part = partOf(layer, path);
  const curve = part?.keys[field];
  // only what has a curve is drawn again with every frame
  const frame = useDesk((d) => (curve ? d.frame : 0));
  if (!part) return null;
  const { sketch, commit } = store.getState();
  const value = curve ? numberAt(part, field, frame) : restingNumber(part, field);
  const edit = (v: number) => numberEdit(layer.id, path, field, whole ? Math.round(v / factor) : v / factor);
  return (
    <NumberField
      {...shown}
      value={value * factor}
      rest={rest * factor}
      onDraft={(v) => sketch(edit(v))}
      onCommit={(v) => commit(edit(v), what)}
      after={!still && <KeySign {...{ store, layer, path, field, what, name: shown.name }} />}
    />
  );
}, alike);

type SignProps = Pick<AnimatedNumberProps, "store" | "layer" | "path" | "field" | "what" | "name">;

function KeySign({ store, layer, path, field, what, name }: SignProps) {
  const part = partOf(layer, path);
  const curve = part?.keys[field];
  const here = useDesk((d) => curve?.keys.some((k) => k.frame === d.frame) ?? false);
  return (
    <KeyToggle
      name={name}
      curve={!!curve}
      here={here}
      onToggle={() =>
        store.getState().commit((d) => {
          const now = layerOf(d, layer.id);
          const target = now && partOf(now, path);
          return target
            ? changePart(d, layer.id, path, toggledKey(target, field, useDesk.getState().frame))
            : d;
        }, t.keyOf(what))
      }
    />
  );
}
