/** An ellipse, a rectangle or a free form: numbers, and its drawing on the picture. */
import { layerOf } from "../../../../domain/comp";
import type { Part } from "../../../../domain/parts";
import { changePart, partOf, toggledKey } from "../../../../domain/parts";
import { PER_POINT } from "../../../../domain/shapes";
import { Button } from "../../../../ui/basics";
import { useDesk } from "../../deskState";
import { HandButton } from "../../drawing/HandButton";
import { PartNumber, type FieldsProps } from "./fields";
import { text } from "../../strings";

const t = text.ShapeFields;

const FULL: [string, [number, number], number, string][] = [
  ["x", [-1000, 1000], 0, "px"],
  ["y", [-1000, 1000], 0, "px"],
  ["width", [0, 2000], 400, "px"],
  ["height", [0, 2000], 400, "px"],
  ["rotation", [-180, 180], 0, "°"],
];

export function ShapeFields(props: FieldsProps<"shape">) {
  const { layer, owner, part, index } = props;
  const count = part.points.length / PER_POINT;
  return (
    <>
      <HandButton layer={layer} path={{ of: "matte", step: owner.step, part: index }} />
      {part.shape === "free"
        ? count > 0 && <ShapeKey {...props} />
        : FULL.map(([name, slider, rest, unit]) => (
            <PartNumber
              key={name}
              of={props}
              field={name}
              {...{ name, slider, rest, unit }}
              min={name === "width" || name === "height" ? 0 : -100000}
              max={100000}
              step={1}
              digits={1}
            />
          ))}
      {(["inside", "outside"] as const).map((side) => (
        <PartNumber
          key={side}
          of={props}
          field={`soft_${side}`}
          name={t.soft(side)}
          help={side === "inside" ? t.howFarWithinItsOutline : t.howFarBeyondItsOutline}
          min={0}
          max={100000}
          step={0.5}
          digits={1}
          slider={[0, 200]}
          rest={0}
          unit="px"
        />
      ))}
    </>
  );
}

/** A key of all points at once: the form at this frame. */
function ShapeKey({ store, layer, owner, part, index, called }: FieldsProps<"shape">) {
  const frame = useDesk((d) => d.frame);
  const here = part.keys["points.0"]?.keys.some((k) => k.frame === frame) ?? false;
  const path = { of: "matte", step: owner.step, part: index } as const;
  const toggle = () =>
    store.getState().commit(
      (d) => {
        const now = layerOf(d, layer.id);
        const target = now && partOf(now, path);
        if (!target) return d;
        const next = part.points.reduce<Part>(
          (p, _, i) => ({ ...p, ...toggledKey(p, `points.${i}`, frame) }),
          target,
        );
        return changePart(d, layer.id, path, next);
      },
      t.formAtFrameOf(frame, called),
    );
  return (
    <Button className="min-h-6 px-1.5 py-0" aria-pressed={here} onClick={toggle}>
      {here ? t.takeTheFormsKeyAt : t.keyTheFormAtThis}
    </Button>
  );
}
