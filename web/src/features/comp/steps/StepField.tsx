/** One parameter of a step: the control follows from what the parameter says of itself. */
import { changeStep } from "../../../domain/comp";
import { ParameterField } from "../ParameterField";
import { CurveField } from "./CurveField";
import { DistanceField } from "./DistanceField";
import { PatchField } from "./PatchField";
import { PlaneField } from "./PlaneField";
import { SourceField } from "./SourceField";
import type { StepFieldProps } from "./fieldProps";

export function StepField(props: StepFieldProps) {
  const { store, layer, index, step, name, field, title } = props;
  if (field.unit === "curve") return <CurveField {...props} />;
  if (field.unit === "patch") return <PatchField {...props} />;
  if (field.unit === "source") return <SourceField {...props} />;
  if (field.unit === "plane") return <PlaneField {...props} />;
  const what = `${field.title} of ${title}`;
  const parameter = (
    <ParameterField
      {...{ store, layer, name, field, title }}
      path={{ of: "step", index }}
      value={(step as unknown as Record<string, unknown>)[name]}
      onChange={(next) =>
        store.getState().commit((d) => changeStep(d, layer.id, index, { [name]: next }), what)
      }
    />
  );
  return field.unit === "distance" ? <DistanceField {...props}>{parameter}</DistanceField> : parameter;
}
