/** How large a layer's own picture is, and where it lies at a frame. */
import type { ElementOut } from "../../../api/client";
import { elementOf, type CompDocument, type Layer } from "../../../domain/comp";
import type { Laid, Size } from "../../../domain/geometry";
import { numberAt } from "../../../domain/parts";

/** Nothing where it is not known. */
export function sizeOf(layer: Layer, document: CompDocument, elements: ElementOut[]): Size | undefined {
  const { width, height } = document;
  if (layer.kind === "group") return { width, height };
  if (layer.kind === "made")
    return { width: layer.made.canvas_width || width, height: layer.made.canvas_height || height };
  const facts = elements.find((e) => e.key === elementOf(layer))?.facts;
  return facts ? { width: facts.width, height: facts.height } : undefined;
}

export function laidAt(layer: Layer, frame: number, size: Size | undefined): Laid {
  const at = (name: string) => numberAt(layer.transform, name, frame);
  return { x: at("x"), y: at("y"), scale: at("scale"), rotation: at("rotation"), size };
}
