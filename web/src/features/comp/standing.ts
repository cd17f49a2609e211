/** A layer is stood in a scene, moved there, or laid flat again. */
import { compCalls } from "../../api/comps";
import { changeLayer, layerOf, type Card, type CompDocument, type Layer } from "../../domain/comp";
import { withNumber, type Part } from "../../domain/parts";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.standing;

/** A place in the comp that changes nothing. */
const REST = { x: 0, y: 0, scale: 1, rotation: 0, keys: {} };
const PLACE = ["x", "y", "z"] as const;

interface Asked {
  /** The camera that sees it, where it is flat yet. */
  camera?: string;
  /** Of the comp, where it is to stand; else it stays where it is seen. */
  point?: [number, number];
}

/** Asks the server where the scene is met, and puts the layer there. Rejects with the problem. */
export async function standLayer(
  store: DocumentStore,
  comp: number,
  id: string,
  asked: Asked,
): Promise<void> {
  const { document, commit } = store.getState();
  const { frame } = useDesk.getState();
  const layer = layerOf(document, id);
  if (!layer) return;
  const card = await compCalls.stand(comp, { document, frame, layer: id, camera: "", ...asked });
  commit((d) => withCard(d, id, card, frame), layer.card ? t.placeOf(layer.name) : t.inTheScene(layer.name));
}

function withCard(document: CompDocument, id: string, card: Card, frame: number): CompDocument {
  const layer = layerOf(document, id);
  if (!layer) return document;
  if (layer.card) return changeLayer(document, id, { card: placed(layer.card, card, frame) });
  // the comp's own camera need not be named
  const camera = card.camera === document.camera ? "" : card.camera;
  const flat = { transform: { ...layer.transform, ...REST } };
  return changeLayer(document, id, { ...flat, card: { ...card, camera } });
}

/** A standing layer at another place; with keys where it has curves. */
const placed = (now: Card, to: Card, frame: number): Card =>
  PLACE.reduce((card, n) => ({ ...card, ...withNumber(card as Part, n, to[n], frame) }), now);

export const layFlat = (store: DocumentStore, layer: Layer): void =>
  store.getState().commit((d) => changeLayer(d, layer.id, { card: null }), t.flat(layer.name));
