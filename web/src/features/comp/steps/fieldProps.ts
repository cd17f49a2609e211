/** What every control of a step's parameter is given. */
import type { Layer, Step } from "../../../domain/comp";
import type { DocumentStore } from "../documentStore";
import type { Field } from "./table";

export interface StepFieldProps {
  store: DocumentStore;
  layer: Layer;
  index: number;
  step: Step;
  name: string;
  field: Field;
  title: string;
}
