/** What every overlay of the picture is given: where the picture lies, and whose matte is made on it. */
import type { Layer } from "../../../domain/comp";
import type { Laid, Size, View } from "../../../domain/geometry";
import type { DocumentStore } from "../documentStore";

/** Where the picture lies on the screen, and the layer whose matte is made on the picture. */
export interface Ground {
  store: DocumentStore;
  comp: number;
  layer: Layer;
  transform: Laid;
  frame: Size;
  view: View;
  room: Size;
  toScreen: (x: number, y: number) => [number, number];
  toComp: (x: number, y: number) => [number, number];
}
