/** What is drawn on the picture: regions, a piece of the screen, strokes, shapes, points; a layer by hand. */
import { useEffect, type ReactNode } from "react";
import type { ElementOut } from "../../../api/client";
import { layerOf } from "../../../domain/comp";
import { toComp, toScreen, type Size, type View } from "../../../domain/geometry";
import { useDesk, type Tool } from "../deskState";
import { shownDocument, type DocumentStore } from "../documentStore";
import { BoxOver } from "./BoxOver";
import type { Ground } from "./ground";
import { PaintOver } from "./PaintOver";
import { PickOver } from "./PickOver";
import { PlaceOver } from "./PlaceOver";
import { PointsOver } from "./PointsOver";
import { ShapeOver } from "./ShapeOver";
import { DistanceOver } from "./DistanceOver";
import { laidAt, sizeOf } from "./sizes";
import { StandOver } from "./StandOver";
import { usePlace } from "./usePlace";

interface Props {
  store: DocumentStore;
  comp: number;
  tool: Tool;
  /** Of the project: a layer's own size comes from its element. */
  elements: ElementOut[];
  view: View;
  room: Size;
}

export function DrawOver({ store, comp, tool, elements, view, room }: Props): ReactNode {
  const document = store(shownDocument);
  const number = useDesk((d) => d.frame);
  const layer = layerOf(document, tool.owner.layer);
  const place = usePlace(comp, document, tool.owner.layer, number);
  useEffect(() => {
    const end = (event: KeyboardEvent) => {
      if (event.key === "Escape") useDesk.setState({ tool: null });
    };
    window.addEventListener("keydown", end);
    return () => window.removeEventListener("keydown", end);
  }, []);
  if (!layer) return null;
  const ground: Ground = {
    store,
    comp,
    layer,
    transform: { ...laidAt(layer, number, sizeOf(layer, document, elements)), matrix: place?.matrix },
    frame: { width: document.width, height: document.height },
    view,
    room,
    toScreen: (x, y) => toScreen(view, room, x, y),
    toComp: (x, y) => toComp(view, room, x, y),
  };
  if (tool.kind === "paint") return <PaintOver ground={ground} tool={tool} />;
  if (tool.kind === "shape") return <ShapeOver ground={ground} tool={tool} />;
  if (tool.kind === "pick") return <PickOver ground={ground} tool={tool} />;
  if (tool.kind === "points") return <PointsOver ground={ground} tool={tool} />;
  if (tool.kind === "stand") return <StandOver ground={ground} />;
  if (tool.kind === "distance") return <DistanceOver ground={ground} tool={tool} />;
  if (tool.kind === "place") return <PlaceOver ground={ground} elements={elements} />;
  return <BoxOver ground={ground} tool={tool} />;
}
