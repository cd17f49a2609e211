/** A parameter of a step that is a name out of a list, or empty: of a source, of a channel. */
import { changeStep } from "../../../domain/comp";
import { Choose, type Option } from "../../../ui/Choose";
import { Line } from "../../../ui/Line";
import { text } from "../strings";
import type { StepFieldProps } from "./fieldProps";

const t = text.ChosenName;

/** Stands for the empty name: a list has no empty value. */
const NONE = "none";

interface Props extends StepFieldProps {
  known: Option[];
  /** What the empty name is called; without it there is none to choose. */
  empty: string | null;
  /** What a name is called that is not in the list any more. */
  gone: (name: string) => string;
}

export function ChosenName({ store, layer, index, step, name, field, title, known, empty, gone }: Props) {
  const value = String(Reflect.get(step, name));
  const options = [
    ...(empty === null ? [] : [{ value: NONE, label: empty }]),
    ...known,
    ...(value && !known.some((o) => o.value === value) ? [{ value, label: gone(value) }] : []),
  ];
  const called = field.title ?? name;
  return (
    <Line label={called} help={field.description ?? ""}>
      <Choose
        name={called}
        value={value || NONE}
        options={options}
        onChange={(v) =>
          store
            .getState()
            .commit(
              (d) => changeStep(d, layer.id, index, { [name]: v === NONE ? "" : v }),
              t.of(called, title),
            )
        }
      />
    </Line>
  );
}
