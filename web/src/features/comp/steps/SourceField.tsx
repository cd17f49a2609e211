/** The second source of a step: another layer after its own steps, or an element. */
import { useQuery } from "@tanstack/react-query";
import { useCallback } from "react";
import { useParams } from "react-router";
import type { ElementOut } from "../../../api/client";
import { queries } from "../../../api/queries";
import { FileDrop } from "../../../parts/FileDrop";
import { allLayers, changeStep } from "../../../domain/comp";
import type { Option } from "../../../ui/Choose";
import { ChosenName } from "./ChosenName";
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

export function SourceField(props: StepFieldProps) {
  const gone = (name: string) => t.whichIsGone(name.replace("layer:", ""));
  const { store, layer, index, name, field, title } = props;
  const use = useCallback(
    (element: ElementOut) =>
      store
        .getState()
        .commit(
          (d) => changeStep(d, layer.id, index, { [name]: element.key }),
          t.of(element.name, field.title ?? name, title),
        ),
    [store, layer.id, index, name, field.title, title],
  );
  return (
    <FileDrop onArrived={use}>
      <ChosenName {...props} known={useSources(props)} empty={t.none} gone={gone} />
    </FileDrop>
  );
}
