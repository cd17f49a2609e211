/** An extra channel of the layer's element, such as a UV pass, that a step goes by. */
import { elementsIn } from "../../../domain/comp";
import { text } from "../strings";
import { ChosenName } from "./ChosenName";
import type { StepFieldProps } from "./fieldProps";
import { useExtraChannels } from "./useExtraChannels";

const t = text.PlaneField;

export function PlaneField(props: StepFieldProps) {
  const { layer, field } = props;
  const known = useExtraChannels(elementsIn(layer)).map((value) => ({ value, label: value }));
  const empty = field.default ? null : (field.labels?.[""] ?? t.none);
  return <ChosenName {...props} known={known} empty={empty} gone={t.isNotThere} />;
}
