/** Points of a part on the picture: the ends of a gradient, pinned corners, the sides of a crop. */
import { partOf, withNumber, type Part } from "../../../domain/parts";
import { outOfLayer } from "../../../domain/geometry";
import { useDesk, type Tool } from "../deskState";
import { text } from "../strings";
import type { Ground } from "./ground";
import { holdsOf, placeOfHold, type Hold } from "./hands";
import { Sign } from "./ShapeGrips";
import { useGrips } from "./useGrips";

const t = text.PointsOver;

/** A part while one of its points is brought to a place. */
function moved(part: Part, hold: Hold, at: [number, number], frame: number): Part {
  return ([hold.x, hold.y] as const).reduce<Part>((now, along, i) => {
    if (typeof along === "number") return now;
    const value = Math.round((at[i as 0 | 1] - along.rest) * along.sign * 10) / 10;
    return {
      ...now,
      ...withNumber(now, along.field, hold.name in SIDES ? Math.max(0, value) : value, frame),
    };
  }, part);
}

/** A crop takes no less than nothing off a side. */
const SIDES = { left: 0, top: 0, right: 0, bottom: 0 };

export function PointsOver({ ground, tool }: { ground: Ground; tool: Extract<Tool, { kind: "points" }> }) {
  const number = useDesk((d) => d.frame);
  const { layer, frame, transform } = ground;
  const part = partOf(layer, tool.path);
  const grips = useGrips<Hold>(
    ground,
    tool.path,
    (now, hold, at) => moved(now, hold, at, number),
    (hold) => hold.name,
    (what) => t.pointOf(what, layer.name),
  );
  if (!part) return null;
  const size = transform.size ?? frame;
  const holds = holdsOf(part, size, number);
  const places = holds.map((hold) => placeOfHold(part, hold, number));
  const onScreen = (at: [number, number]) => ground.toScreen(...outOfLayer(transform, frame, at));
  const rim = rimOf(String(part["kind"]), places).map((at) => onScreen(at).join(" "));
  const d = rim.length > 0 ? `M ${rim.join(" L ")}` : "";
  return (
    <div
      data-tool="points"
      role="application"
      aria-label={t.pointsOnThePicture(holds.map((h) => h.name).join(", "))}
      className="absolute inset-0 touch-none outline-none"
      onKeyUp={grips.letGo}
      onBlur={grips.letGo}
      onPointerDown={(event) => event.button === 0 && event.stopPropagation()}
      onPointerMove={grips.move}
      onPointerUp={grips.end}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      <svg className="absolute inset-0 h-full w-full">
        <path d={d} fill="none" stroke="#000" strokeWidth={3} />
        <path d={d} fill="none" stroke="#fff" strokeWidth={1.2} />
        {holds.map((hold, i) => (
          <Sign
            key={hold.name}
            at={onScreen(places[i]!)}
            name={t.point(hold.name)}
            round={part["kind"] === "gradient"}
            onPress={(event) => grips.begin(event, hold)}
            onKey={(event) => grips.nudge(event, hold, places[i]!)}
          />
        ))}
      </svg>
    </div>
  );
}

/** What is drawn through the points: a line, or what they enclose. */
function rimOf(kind: string, places: [number, number][]): [number, number][] {
  if (kind !== "crop") return kind === "corner_pin" ? [...places, ...places.slice(0, 1)] : places;
  const [left, top, right, bottom] = places as [
    [number, number],
    [number, number],
    [number, number],
    [number, number],
  ];
  return [
    [left[0], top[1]],
    [right[0], top[1]],
    [right[0], bottom[1]],
    [left[0], bottom[1]],
    [left[0], top[1]],
  ];
}
