/** A shape on the picture: its outline, and what it can be moved and bent by. */
import { layerOf } from "../../../domain/comp";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { intoLayer, outOfLayer } from "../../../domain/geometry";
import { matteOf } from "../../../domain/mattes";
import { changePart, numberAt, partOf, type Part } from "../../../domain/parts";
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
import { moved, plainOutline, stepOf, type Grip } from "./shapeMoves";
import { PlainGrips, PointSigns } from "./ShapeGrips";
import { text } from "../strings";

const t = text.ShapeOver;

type ShapeTool = Extract<Tool, { kind: "shape" }>;

export function ShapeOver({ ground, tool }: { ground: Ground; tool: ShapeTool }) {
  const number = useDesk((d) => d.frame);
  const grip = useRef<Grip | null>(null);
  /** What arrow keys move, and where they have brought it by now; accepted when the key is let go. */
  const nudged = useRef<{ grip: Grip; at: [number, number] } | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const { store, layer } = ground;
  const path = { of: "matte", step: tool.owner.step, part: tool.part } as const;
  const part = matteOf({ ...store.getState().document, layers: [layer] }, tool.owner).parts[tool.part];
  if (part?.kind !== "shape") return null;
  const own = part as unknown as Part;

  const edit = (change: (now: Part) => Partial<Part>, done: boolean, what: string) => {
    const apply = (d: Parameters<typeof changePart>[0]) => {
      const now = layerOf(d, layer.id);
      const target = now && partOf(now, path);
      return target ? changePart(d, layer.id, path, change(target)) : d;
    };
    if (done) store.getState().commit(apply, t.ofTheMatteOf(what, layer.name));
    else store.getState().sketch(apply);
  };
  const at = (event: PointerEvent): [number, number] => {
    const box = event.currentTarget.closest("[data-tool]")!.getBoundingClientRect();
    const comp = ground.toComp(event.clientX - box.left, event.clientY - box.top);
    return intoLayer(ground.transform, ground.frame, comp);
  };
  const begin = (event: PointerEvent, next: Grip) => {
    event.stopPropagation();
    if (event.button !== 0) return;
    event.currentTarget.closest("[data-tool]")!.setPointerCapture(event.pointerId);
    grip.current = next;
  };
  const move = (event: PointerEvent, done: boolean) => {
    const held = grip.current;
    if (!held) return;
    const change = (now: Part) => moved(now, held, at(event), number);
    edit(change, done, held.of === "whole" ? "place" : held.of);
  };
  const nudge = (event: KeyboardEvent, next: Grip, from: [number, number]) => {
    const by = stepOf(event);
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    const [x, y] = nudged.current?.at ?? from;
    nudged.current = { grip: nudged.current?.grip ?? next, at: [x + by[0], y + by[1]] };
    const { grip: moving, at: to } = nudged.current;
    edit((now) => moved(now, moving, to, number), false, moving.of);
  };
  const letGo = () => {
    const done = nudged.current;
    if (!done) return;
    nudged.current = null;
    edit(
      (now) => moved(now, done.grip, done.at, number),
      true,
      done.grip.of === "whole" ? "place" : done.grip.of,
    );
  };
  const place = (x: number, y: number) =>
    ground.toScreen(...outOfLayer(ground.transform, ground.frame, [x, y]));
  const free = part.shape === "free";
  const points = free ? pointsOf(own, number) : [];
  const d = free ? outline(points, place) : plainOutline(part, own, number, place);
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
      aria-label={t.shapeOnThePicture(free ? t.points(points.length) : part.shape)}
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
      onPointerMove={(event) => move(event, false)}
      onPointerUp={(event) => {
        move(event, true);
        grip.current = null;
      }}
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
