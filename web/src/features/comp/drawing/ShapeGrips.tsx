/** What a shape on the picture is moved and bent by: squares and dots to drag, or to move by arrow keys. */
import type { KeyboardEvent, PointerEvent } from "react";
import { numberAt, type Part } from "../../../domain/parts";
import type { Point } from "../../../domain/shapes";
import type { Grip } from "./shapeMoves";
import { text } from "../strings";

const t = text.ShapeGrips;

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
export function PlainGrips({ own, number, place, onGrip, onNudge }: GripProps) {
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

export function PointSigns({ point, index, chosen, place, onGrip, onTurn, onFocus, onNudge }: PointProps) {
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
export function Sign({
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
