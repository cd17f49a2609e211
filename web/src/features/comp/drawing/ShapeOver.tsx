/** A shape on the picture: its outline, and what it can be moved and bent by. */
import { useState, type KeyboardEvent } from "react";
import { outOfLayer } from "../../../domain/geometry";
import { numberAt, partOf } from "../../../domain/parts";
import {
  addPoint,
  isCorner,
  outline,
  pointsOf,
  rounded,
  withoutPoint,
  withPoint,
  type Point,
} from "../../../domain/shapes";
import { useDesk, type Tool } from "../deskState";
import type { Ground } from "./ground";
import { formOf } from "./hands";
import { moved, plainOutline, type Grip } from "./shapeMoves";
import { PlainGrips, PointSigns } from "./ShapeGrips";
import { useGrips } from "./useGrips";
import { text } from "../strings";

const t = text.ShapeOver;

type ShapeTool = Extract<Tool, { kind: "shape" }>;

export function ShapeOver({ ground, tool }: { ground: Ground; tool: ShapeTool }) {
  const number = useDesk((d) => d.frame);
  const [chosen, setChosen] = useState<number | null>(null);
  const { layer } = ground;
  const own = partOf(layer, tool.path);
  const form = own && formOf(own);
  const { at, edit, begin, move, end, nudge, letGo } = useGrips<Grip>(
    ground,
    tool.path,
    (now, grip, to) => moved(now, grip, to, number),
    (grip) => (grip.of === "whole" ? "place" : grip.of),
    (what) => (tool.path.of === "matte" ? t.ofTheMatteOf : t.ofTheShapeOf)(what, layer.name),
  );
  if (!own || !form) return null;
  const place = (x: number, y: number) =>
    ground.toScreen(...outOfLayer(ground.transform, ground.frame, [x, y]));
  const free = form === "free";
  const points = free ? pointsOf(own, number) : [];
  const d = free ? outline(points, place) : plainOutline(form, own, number, place);
  const onKey = (event: KeyboardEvent) => {
    if ((event.key === "Delete" || event.key === "Backspace") && chosen !== null) {
      event.preventDefault();
      event.stopPropagation();
      edit((now) => withoutPoint(now, chosen), true, "a point");
      setChosen(null);
      return;
    }
    if (free || event.target !== event.currentTarget) return;
    const from: [number, number] = [numberAt(own, "x", number), numberAt(own, "y", number)];
    nudge(event, { of: "whole", from, x: from[0], y: from[1] }, from);
  };
  return (
    <div
      data-tool="shape"
      role="application"
      aria-label={t.shapeOnThePicture(free ? t.points(points.length) : form)}
      tabIndex={0}
      className="absolute inset-0 cursor-crosshair touch-none outline-none"
      onKeyDown={onKey}
      onKeyUp={letGo}
      onBlur={letGo}
      onPointerDown={(event) => {
        if (!free) {
          const [x, y] = at(event);
          begin(event, {
            of: "whole",
            from: [x, y],
            x: numberAt(own, "x", number),
            y: numberAt(own, "y", number),
          });
          return;
        }
        const [x, y] = at(event);
        const fresh: Point = { x, y, before: [0, 0], after: [0, 0] };
        edit((now) => addPoint(now, fresh), true, "a point");
        setChosen(points.length);
        // dragging on pulls its handles out
        begin(event, { of: "after", index: points.length });
      }}
      onPointerMove={move}
      onPointerUp={end}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      <svg className="absolute inset-0 h-full w-full">
        <path d={d} fill="none" stroke="#000" strokeWidth={3} />
        <path d={d} fill="none" stroke="#fff" strokeWidth={1.2} />
        {free ? (
          points.map((p, i) => (
            <PointSigns
              key={i}
              point={p}
              index={i}
              chosen={chosen === i}
              place={place}
              onGrip={(event, next) => {
                setChosen(i);
                begin(event, next);
              }}
              onFocus={() => setChosen(i)}
              onNudge={nudge}
              onTurn={() =>
                edit(
                  (now) => {
                    const all = pointsOf(now, number);
                    const next = isCorner(all[i]!)
                      ? rounded(all, i)
                      : { ...all[i]!, before: [0, 0] as [number, number], after: [0, 0] as [number, number] };
                    return withPoint(now, i, next, number);
                  },
                  true,
                  "a point",
                )
              }
            />
          ))
        ) : (
          <PlainGrips own={own} number={number} place={place} onGrip={begin} onNudge={nudge} />
        )}
      </svg>
    </div>
  );
}
