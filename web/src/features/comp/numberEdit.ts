/** One number of a layer set, with a key at this frame where it has a curve. */
import { layerOf, type CompDocument } from "../../domain/comp";
import { changePart, partOf, withNumber, type PartPath } from "../../domain/parts";
import { useDesk } from "./deskState";

export const numberEdit =
  (layer: string, path: PartPath, field: string, value: number) =>
  (document: CompDocument): CompDocument => {
    const now = layerOf(document, layer);
    const part = now && partOf(now, path);
    return part
      ? changePart(document, layer, path, withNumber(part, field, value, useDesk.getState().frame))
      : document;
  };
