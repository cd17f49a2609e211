/** The second source of a step: another layer after its own steps, or an element. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { queries } from "../../../api/queries";
import { changeStep, allLayers } from "../../../domain/comp";
import { Choose, type Option } from "../../../ui/Choose";
import type { StepFieldProps } from "./fieldProps";
import { text } from "../strings";

const t = text.SourceField;

/** What can be a second source for a layer, by the names people know. */
export function useSources({ store, layer }: Pick<StepFieldProps, "store" | "layer">): Option[] {
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  const comps = useQuery(queries.comps(project));
  const own = Number(useParams()["comp"]);
  const document = store((s) => s.document);
  return [
    ...allLayers(document)
      .filter((l) => l.id !== layer.id)
      .map((l) => ({ value: `layer:${l.id}`, label: l.name, group: t.layersAfterTheirSteps })),
    ...(elements.data ?? [])
      .filter((e) => e.state === "ready")
      .map((e) => ({ value: e.key, label: e.name, group: t.elements })),
    ...(comps.data ?? [])
      .filter((c) => c.id !== own)
      .map((c) => ({ value: c.key, label: c.name, group: t.comps })),
  ];
}

const NONE = "none";

export function SourceField(props: StepFieldProps) {
  const { store, layer, index, step, name, field, title } = props;
  const value = String(Reflect.get(step, name));
  const sources = useSources(props);
  const known = !value || sources.some((s) => s.value === value);
  const options = [
    { value: NONE, label: t.none },
    ...sources,
    ...(known ? [] : [{ value, label: t.whichIsGone(value.replace("layer:", "")) }]),
  ];
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-20 shrink-0 text-soft" title={field.description}>
        {field.title}
      </span>
      <Choose
        name={field.title ?? name}
        value={value || NONE}
        options={options}
        onChange={(v) =>
          store
            .getState()
            .commit(
              (d) => changeStep(d, layer.id, index, { [name]: v === NONE ? "" : v }),
              `${field.title} of ${title}`,
            )
        }
      />
    </div>
  );
}
