/** Numbers of a layer set, each with a key at this frame where it has a curve. */
import { layerOf, type CompDocument } from "../../domain/comp";
import { changePart, partOf, withNumber, type PartPath } from "../../domain/parts";
import { useDesk } from "./deskState";

/** All at once; of a colour or a point by name and place, as `colour.1`. */
export const numbersEdit =
  (layer: string, path: PartPath, values: Readonly<Record<string, number>>) =>
  (document: CompDocument): CompDocument =>
    Object.entries(values).reduce((d, [field, value]) => {
      const now = layerOf(d, layer);
      const part = now && partOf(now, path);
      return part ? changePart(d, layer, path, withNumber(part, field, value, useDesk.getState().frame)) : d;
    }, document);

export const numberEdit = (layer: string, path: PartPath, field: string, value: number) =>
  numbersEdit(layer, path, { [field]: value });
