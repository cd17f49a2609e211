/** A shape on the picture: its outline, and what it can be moved and bent by. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { intoLayer, outOfLayer } from "../../../domain/geometry";
import { matteOf, type PartOf } from "../../../domain/mattes";
import { changePart, numberAt, partOf, withNumber, type Part } from "../../../domain/parts";
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
import { text } from "../strings";

const t = text.ShapeOver;

type ShapeTool = Extract<Tool, { kind: "shape" }>;
/** What is dragged: the whole, a side, the rotation, a point of a free form, a handle of one. */
type Grip =
  | { of: "whole"; from: [number, number]; x: number; y: number }
  | { of: "width" }
  | { of: "height" }
  | { of: "rotation" }
  | { of: "point" | "before" | "after"; index: number };

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** By how far a key moves a grip, in the layer's pixels: 10 with Shift, a tenth with Alt. */
function stepOf(event: KeyboardEvent): [number, number] | null {
  const arrow = ARROWS[event.key];
  if (!arrow) return null;
  const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
  return [arrow[0] * size, arrow[1] * size];
}

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
      const now = d.layers.find((l) => l.id === layer.id);
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

/** What a part becomes while something of it is dragged to a place in the layer's pixels. */
function moved(part: Part, grip: Grip, [x, y]: [number, number], frame: number): Partial<Part> {
  const round = (v: number) => Math.round(v * 10) / 10;
  const set = (name: string, value: number) => withNumber(part, name, round(value), frame);
  if (grip.of === "whole") {
    const first = { ...part, ...set("x", grip.x + x - grip.from[0]) };
    return { ...first, ...withNumber(first, "y", round(grip.y + y - grip.from[1]), frame) };
  }
  if (grip.of === "width" || grip.of === "height" || grip.of === "rotation") {
    const [dx, dy] = [x - numberAt(part, "x", frame), y - numberAt(part, "y", frame)];
    if (grip.of === "rotation") return set("rotation", (Math.atan2(dx, -dy) * 180) / Math.PI);
    const angle = (numberAt(part, "rotation", frame) * Math.PI) / 180;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    return set(grip.of, 2 * Math.abs(grip.of === "width" ? c * dx + s * dy : c * dy - s * dx));
  }
  const points = pointsOf(part, frame);
  const point = points[grip.index];
  if (!point) return {};
  if (grip.of === "point") return withPoint(part, grip.index, { ...point, x, y }, frame);
  const [hx, hy] = [x - point.x, y - point.y];
  // a new point that is let go at once stays a corner
  if (grip.of === "after" && Math.hypot(hx, hy) < 3) return {};
  const [ahead, behind]: [[number, number], [number, number]] = [
    [hx, hy],
    [-hx, -hy],
  ];
  const next =
    grip.of === "after"
      ? { ...point, after: ahead, before: behind }
      : { ...point, before: ahead, after: behind };
  return withPoint(part, grip.index, next, frame);
}

function plainOutline(
  shape: PartOf<"shape">,
  part: Part,
  frame: number,
  place: (x: number, y: number) => [number, number],
): string {
  const at = (name: string) => numberAt(part, name, frame);
  const [x, y, a, b] = [at("x"), at("y"), at("width") / 2, at("height") / 2];
  const angle = (at("rotation") * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const round = Array.from({ length: 72 }, (_, i): [number, number] => {
    const t = (i / 72) * 2 * Math.PI;
    return [a * Math.cos(t), b * Math.sin(t)];
  });
  const corners: [number, number][] = [
    [-a, -b],
    [a, -b],
    [a, b],
    [-a, b],
  ];
  const rim = shape.shape === "ellipse" ? round : corners;
  return `M ${rim.map(([u, v]) => place(x + c * u - s * v, y + s * u + c * v).join(" ")).join(" L ")} Z`;
}

/** Moves a grip by an arrow key, from where it is in the layer's pixels. */
type Nudge = (event: KeyboardEvent, grip: Grip, from: [number, number]) => void;

interface GripProps {
  own: Part;
  number: number;
  place: (x: number, y: number) => [number, number];
  onGrip: (event: PointerEvent, grip: Grip) => void;
  onNudge: Nudge;
}

/** The width on the right, the height below, the rotation above. */
function PlainGrips({ own, number, place, onGrip, onNudge }: GripProps) {
  const at = (name: string) => numberAt(own, name, number);
  const angle = (at("rotation") * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const [a, b] = [at("width") / 2, at("height") / 2];
  const inLayer = (u: number, v: number): [number, number] => [
    at("x") + c * u - s * v,
    at("y") + s * u + c * v,
  ];
  const [tx, ty] = place(...inLayer(0, -b));
  const [mx, my] = place(...inLayer(0, 0));
  const far = Math.hypot(tx - mx, ty - my) || 1;
  // a little beyond the outline, however it is zoomed
  const rotation: [number, number] = [tx + ((tx - mx) / far) * 22, ty + ((ty - my) / far) * 22];
  const rows = [
    { of: "width", from: inLayer(a, 0), at: place(...inLayer(a, 0)), name: t.widthOfTheShape },
    { of: "height", from: inLayer(0, b), at: place(...inLayer(0, b)), name: t.heightOfTheShape },
    { of: "rotation", from: inLayer(0, -b - 20), at: rotation, name: t.rotationOfTheShape },
  ] as const;
  return (
    <>
      <line x1={tx} y1={ty} x2={rotation[0]} y2={rotation[1]} stroke="#fff" strokeWidth={1} />
      {rows.map((row) => (
        <Sign
          key={row.of}
          at={row.at}
          name={row.name}
          round={row.of === "rotation"}
          onPress={(e) => onGrip(e, { of: row.of })}
          onKey={(e) => onNudge(e, { of: row.of }, row.from)}
        />
      ))}
    </>
  );
}

interface PointProps {
  point: Point;
  index: number;
  chosen: boolean;
  place: (x: number, y: number) => [number, number];
  onGrip: (event: PointerEvent, grip: Grip) => void;
  onTurn: () => void;
  onFocus: () => void;
  onNudge: Nudge;
}

function PointSigns({ point, index, chosen, place, onGrip, onTurn, onFocus, onNudge }: PointProps) {
  const here = place(point.x, point.y);
  const ends = (["before", "after"] as const).filter((side) => point[side].some((v) => v !== 0));
  return (
    <>
      {chosen &&
        ends.map((side) => {
          const end = place(point.x + point[side][0], point.y + point[side][1]);
          return (
            <g key={side}>
              <line x1={here[0]} y1={here[1]} x2={end[0]} y2={end[1]} stroke="#fff" strokeWidth={1} />
              <Sign
                at={end}
                round
                name={t.handlePoint(side, index + 1)}
                onPress={(e) => onGrip(e, { of: side, index })}
                onKey={(e) =>
                  onNudge(e, { of: side, index }, [point.x + point[side][0], point.y + point[side][1]])
                }
              />
            </g>
          );
        })}
      <Sign
        at={here}
        name={t.point(index + 1)}
        chosen={chosen}
        onPress={(e) => onGrip(e, { of: "point", index })}
        onTurn={onTurn}
        onFocus={onFocus}
        onKey={(e) => onNudge(e, { of: "point", index }, [point.x, point.y])}
      />
    </>
  );
}

interface SignProps {
  at: [number, number];
  name: string;
  round?: boolean;
  chosen?: boolean;
  onPress: (event: PointerEvent) => void;
  onKey: (event: KeyboardEvent) => void;
  onTurn?: () => void;
  onFocus?: () => void;
}

/** A square or a dot to drag, or to move by arrow keys, with a larger place to meet it. */
function Sign({
  at: [x, y],
  name,
  round = false,
  chosen = false,
  onPress,
  onKey,
  onTurn,
  onFocus,
}: SignProps) {
  const fill = chosen ? "var(--accent)" : "#fff";
  return (
    <g
      data-grip={name}
      role="button"
      aria-label={name}
      tabIndex={0}
      className="group cursor-grab outline-none"
      onPointerDown={onPress}
      onFocus={onFocus}
      onKeyDown={(event) => {
        if (event.key === "Enter" && onTurn) {
          event.stopPropagation();
          onTurn();
        } else onKey(event);
      }}
      onDoubleClick={(event) => {
        event.stopPropagation();
        onTurn?.();
      }}
    >
      <title>{name}</title>
      <circle
        cx={x}
        cy={y}
        r={11}
        fill="transparent"
        className="stroke-transparent group-focus-visible:stroke-[var(--accent)]"
        strokeWidth={2}
      />
      {round ? (
        <circle cx={x} cy={y} r={4.5} fill={fill} stroke="#000" strokeWidth={1.2} />
      ) : (
        <rect x={x - 4.5} y={y - 4.5} width={9} height={9} fill={fill} stroke="#000" strokeWidth={1.2} />
      )}
    </g>
  );
}
