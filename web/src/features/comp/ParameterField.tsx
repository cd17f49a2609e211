/** A parameter of a step or of what is made here: its control follows from what it says of itself. */
import type { Layer } from "../../domain/comp";
import { changePart, type PartPath } from "../../domain/parts";
import { Choose } from "../../ui/Choose";
import { Segments } from "../../ui/Segments";
import { Tick } from "../../ui/Tick";
import { AnimatedNumber } from "./AnimatedNumber";
import { ColourPick } from "./ColourPick";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { FontChoice } from "./FontChoice";
import type { Field } from "./steps/table";
import { TextArea } from "./TextArea";

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
const RGB: [string, string][] = [
  ["0", "red"],
  ["1", "green"],
  ["2", "blue"],
];
const PARTS: Record<string, [string, string][]> = {
  rgb: RGB,
  colour: RGB,
  point: [
    ["0", "x"],
    ["1", "y"],
  ],
};

export interface ParameterProps {
  store: DocumentStore;
  layer: Layer;
  /** Where the parameter is. */
  path: PartPath;
  name: string;
  field: Field;
  /** Of the step, or of what is made. */
  title: string;
  value: unknown;
  onChange: (next: unknown) => void;
}

export function ParameterField(props: ParameterProps) {
  const { store, layer, name, field, title, value, onChange } = props;
  if (field.enum) {
    const options = field.enum.map((v) => ({ value: v, label: field.labels?.[v] ?? v }));
    return (
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft" title={field.description}>
          {field.title}
        </span>
        {options.length > 3 || options.map((o) => o.label).join("").length > 22 ? (
          <Choose name={field.title ?? name} value={String(value)} options={options} onChange={onChange} />
        ) : (
          <Segments
            name={field.title ?? name}
            small
            value={String(value)}
            choices={options}
            onChange={onChange}
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
        onChange={onChange}
      />
    );
  if (field.unit === "text")
    return (
      <TextArea
        name={field.title ?? name}
        value={String(value)}
        onDraft={(text) =>
          store.getState().sketch((d) => changePart(d, layer.id, props.path, { [name]: text }))
        }
        onCommit={onChange}
      />
    );
  if (field.unit === "font")
    return (
      <FontChoice
        name={field.title ?? name}
        help={field.description}
        shipped={(field.options ?? []).map((font) => ({ value: font, label: field.labels?.[font] ?? font }))}
        value={String(value)}
        onChange={onChange}
      />
    );
  const parts = PARTS[field.unit ?? ""];
  if (!parts) return <ParameterNumber {...props} number={name} label={field.title ?? name} />;
  return (
    <fieldset>
      <legend className="flex w-full items-center gap-2 pt-1 text-soft" title={field.description}>
        {field.title}
        {field.unit === "colour" && (
          <ColourPick {...{ store, layer, name, path: props.path }} what={`${field.title} of ${title}`} />
        )}
      </legend>
      <div className="pl-2">
        {parts.map(([place, label]) => (
          <ParameterNumber key={place} {...props} number={`${name}.${place}`} label={label} />
        ))}
      </div>
    </fieldset>
  );
}

function ParameterNumber({
  store,
  layer,
  path,
  field,
  title,
  number,
  label,
}: ParameterProps & { number: string; label: string }) {
  const eightBit = useDesk((d) => d.eightBit) && field.unit === "code";
  const factor = eightBit ? 255 : field.unit === "%" ? 100 : 1;
  const whole = field.type === "integer";
  const place = number.split(".")[1];
  const rest = Number(place === undefined ? field.default : (field.default as number[])[Number(place)]);
  const bounded =
    field.unit === "rgb" || field.unit === "colour"
      ? [-1000, 1000]
      : field.unit === "point"
        ? [-1e5, 1e5]
        : [];
  const [low, high] = [field.minimum ?? bounded[0], field.maximum ?? bounded[1]];
  const ends = field.slider ?? [low ?? 0, high ?? 1];
  const coarse = whole || eightBit || factor === 100;
  const span = ends[1] - ends[0];
  const unit = UNITS[field.unit ?? ""];
  return (
    <AnimatedNumber
      store={store}
      layer={layer}
      path={path}
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
      still={field.still ?? false}
      {...(unit ? { unit } : {})}
    />
  );
}
