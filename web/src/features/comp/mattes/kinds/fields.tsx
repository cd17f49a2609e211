/** What the fields of every kind of part share: a number, a line, the source. */
import type { ReactNode } from "react";
import type { Layer } from "../../../../domain/comp";
import type { Kind, Owner, PartOf } from "../../../../domain/mattes";
import { Choose, type Option } from "../../../../ui/Choose";
import { AnimatedNumber, type AnimatedNumberProps } from "../../AnimatedNumber";
import type { DocumentStore } from "../../documentStore";
import { text } from "../../strings";

const t = text.fields;

export interface FieldsProps<K extends Kind> {
  store: DocumentStore;
  layer: Layer;
  owner: Owner;
  part: PartOf<K>;
  index: number;
  /** How the one to whom the matte belongs is called. */
  called: string;
  sources: Option[];
  set: (change: Partial<PartOf<K>>, what: string) => void;
}

type NumberProps = Pick<
  AnimatedNumberProps,
  "min" | "max" | "slider" | "rest" | "step" | "digits" | "unit" | "help" | "factor"
> & {
  of: Pick<FieldsProps<Kind>, "store" | "layer" | "owner" | "index" | "called">;
  field: string;
  name: string;
};

export function PartNumber({ of, field, name, ...rest }: NumberProps) {
  return (
    <AnimatedNumber
      {...rest}
      store={of.store}
      layer={of.layer}
      path={{ of: "matte", step: of.owner.step, part: of.index }}
      field={field}
      what={t.ofTheMatteOf(name, of.called)}
      name={name}
    />
  );
}

export function Line({ name, help, children }: { name: string; help?: string; children: ReactNode }) {
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-20 shrink-0 text-soft" title={help}>
        {name}
      </span>
      {children}
    </div>
  );
}

const NONE = "itself";

interface SourceProps {
  name: string;
  value: string;
  sources: Option[];
  onChange: (source: string) => void;
}

/** What a part takes; a source that is gone is named so. */
export function SourceChoice({ name, value, sources, onChange }: SourceProps) {
  const known = sources.some((s) => s.value === value);
  const options = [
    ...sources.map((s) => ({ ...s, value: s.value || NONE })),
    ...(known || !value ? [] : [{ value, label: t.whichIsGone(value.replace("layer:", "")) }]),
  ];
  return (
    <Choose
      name={name}
      value={value || NONE}
      options={options}
      onChange={(v) => onChange(v === NONE ? "" : v)}
    />
  );
}

const READ = [
  { value: "source", label: t.asItCame },
  { value: "steps", label: t.afterItsOwnSteps },
  { value: "placed", label: t.asItLiesInThe },
];

export function ReadLine({
  value,
  onChange,
}: {
  value: string;
  onChange: (read: "source" | "steps" | "placed") => void;
}) {
  return (
    <Line name={t.read}>
      <Choose
        name={t.whereTheChannelIsRead}
        value={value}
        options={READ}
        onChange={(read) => onChange(read as "source" | "steps" | "placed")}
      />
    </Line>
  );
}
