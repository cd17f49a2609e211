/** One parameter of a step: the control follows from what the parameter says of itself. */
import { changeStep } from "../../../domain/comp";
import { Choose } from "../../../ui/Choose";
import { Segments } from "../../../ui/Segments";
import { Tick } from "../../../ui/Tick";
import { AnimatedNumber } from "../AnimatedNumber";
import { useDesk } from "../deskState";
import { CurveField } from "./CurveField";
import { DistanceField } from "./DistanceField";
import { PatchField } from "./PatchField";
import { PlaneField } from "./PlaneField";
import { SourceField } from "./SourceField";
import type { StepFieldProps } from "./fieldProps";

const UNITS: Record<string, string> = {
  px: "px",
  deg: "°",
  x: "×",
  stops: "st",
  fr: "fr",
  "%": "%",
  mm: "mm",
  m: "m",
};
const PARTS: Record<string, [string, string][]> = {
  rgb: [
    ["0", "red"],
    ["1", "green"],
    ["2", "blue"],
  ],
  point: [
    ["0", "x"],
    ["1", "y"],
  ],
};

export function StepField(props: StepFieldProps) {
  const { store, layer, index, step, name, field, title } = props;
  const value = (step as unknown as Record<string, unknown>)[name];
  const what = `${field.title} of ${title}`;
  const change = (next: unknown) =>
    store.getState().commit((d) => changeStep(d, layer.id, index, { [name]: next }), what);
  if (field.enum) {
    const options = field.enum.map((v) => ({ value: v, label: field.labels?.[v] ?? v }));
    return (
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft" title={field.description}>
          {field.title}
        </span>
        {options.length > 3 || options.map((o) => o.label).join("").length > 22 ? (
          <Choose name={field.title ?? name} value={String(value)} options={options} onChange={change} />
        ) : (
          <Segments
            name={field.title ?? name}
            small
            value={String(value)}
            choices={options}
            onChange={change}
          />
        )}
      </div>
    );
  }
  if (field.type === "boolean")
    return (
      <Tick
        label={field.title}
        {...(field.description ? { help: field.description } : {})}
        checked={Boolean(value)}
        onChange={change}
      />
    );
  if (field.unit === "curve") return <CurveField {...props} />;
  if (field.unit === "patch") return <PatchField {...props} />;
  if (field.unit === "source") return <SourceField {...props} />;
  if (field.unit === "plane") return <PlaneField {...props} />;
  const parts = PARTS[field.unit ?? ""];
  if (parts)
    return (
      <fieldset>
        <legend className="pt-1 text-soft" title={field.description}>
          {field.title}
        </legend>
        <div className="pl-2">
          {parts.map(([place, label]) => (
            <StepNumber key={place} {...props} number={`${name}.${place}`} label={label} />
          ))}
        </div>
      </fieldset>
    );
  const number = <StepNumber {...props} number={name} label={field.title ?? name} />;
  return field.unit === "distance" ? <DistanceField {...props}>{number}</DistanceField> : number;
}

function StepNumber({
  store,
  layer,
  index,
  field,
  title,
  number,
  label,
}: StepFieldProps & { number: string; label: string }) {
  const eightBit = useDesk((d) => d.eightBit) && field.unit === "code";
  const factor = eightBit ? 255 : field.unit === "%" ? 100 : 1;
  const whole = field.type === "integer";
  const place = number.split(".")[1];
  const rest = Number(place === undefined ? field.default : (field.default as number[])[Number(place)]);
  const bounded = field.unit === "rgb" ? [-1000, 1000] : field.unit === "point" ? [-1e5, 1e5] : [];
  const [low, high] = [field.minimum ?? bounded[0], field.maximum ?? bounded[1]];
  const ends = field.slider ?? [low ?? 0, high ?? 1];
  const coarse = whole || eightBit || factor === 100;
  const span = ends[1] - ends[0];
  const unit = UNITS[field.unit ?? ""];
  return (
    <AnimatedNumber
      store={store}
      layer={layer}
      path={{ of: "step", index }}
      field={number}
      what={`${place === undefined ? field.title : `${label} ${field.title}`} of ${title}`}
      name={label}
      {...(field.description ? { help: field.description } : {})}
      {...(low === undefined ? {} : { min: low * factor })}
      {...(high === undefined ? {} : { max: high * factor })}
      step={coarse ? 1 : span > 20 ? 0.5 : span > 5 ? 0.1 : 0.01}
      digits={whole ? 0 : eightBit ? 1 : 3}
      slider={[ends[0] * factor, ends[1] * factor]}
      rest={rest}
      factor={factor}
      whole={whole}
      {...(unit ? { unit } : {})}
    />
  );
}
