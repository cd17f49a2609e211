/** A tone curve: points that are dragged, added by a double click, taken out by Delete, or typed. */
import { useRef, useState, type PointerEvent } from "react";
import { changeStep } from "../../../domain/comp";
import { hermite, slopesOf } from "../../../domain/curve";
import { NumberField } from "../../../ui/NumberField";
import type { StepFieldProps } from "./fieldProps";
import { text } from "../strings";

const t = text.CurveField;

type Point = [number, number];

const SIZE = 200;
const toX = (v: number) => v * SIZE;
const toY = (v: number) => (1 - v) * SIZE;

/** The curve as an SVG path, straight on beyond its ends. */
export function curvePath(points: readonly Point[]): string {
  const keys = points.map(([frame, value]) => ({ frame, value }));
  const slopes = slopesOf(keys);
  const at = (x: number): number => {
    const last = keys.length - 1;
    if (x <= keys[0]!.frame) return keys[0]!.value + slopes[0]! * (x - keys[0]!.frame);
    if (x >= keys[last]!.frame) return keys[last]!.value + slopes[last]! * (x - keys[last]!.frame);
    const i = keys.findIndex((k) => k.frame > x) - 1;
    const [a, b] = [keys[i]!, keys[i + 1]!];
    const span = b.frame - a.frame;
    return hermite((x - a.frame) / span, a.value, b.value, slopes[i]! * span, slopes[i + 1]! * span);
  };
  const steps = Array.from({ length: 101 }, (_, i) => i / 100);
  return steps.map((x, i) => `${i ? "L" : "M"}${toX(x).toFixed(1)} ${toY(at(x)).toFixed(1)}`).join("");
}

/** A point put elsewhere, between its neighbours. */
export function withPoint(points: readonly Point[], index: number, [x, y]: Point): Point[] {
  const low = points[index - 1] ? points[index - 1]![0] + 0.001 : -100;
  const high = points[index + 1] ? points[index + 1]![0] - 0.001 : 100;
  return points.map((p, i) => (i === index ? [Math.max(low, Math.min(high, x)), y] : p));
}

export function CurveField({ store, layer, index, step, name, field, title }: StepFieldProps) {
  const points = (step as unknown as Record<string, Point[]>)[name]!;
  const [chosen, setChosen] = useState(0);
  const box = useRef<SVGSVGElement>(null);
  const begun = useRef<Point | null>(null);
  const { sketch, commit } = store.getState();
  const edit = (next: Point[]) => (d: Parameters<typeof changeStep>[0]) =>
    changeStep(d, layer.id, index, { [name]: next });
  const what = `${field.title} of ${title}`;
  const at = Math.min(chosen, points.length - 1);

  const placeOf = (event: { clientX: number; clientY: number }): Point => {
    const r = box.current!.getBoundingClientRect();
    return [(event.clientX - r.left) / r.width, 1 - (event.clientY - r.top) / r.height];
  };
  const drag = (event: PointerEvent, i: number) => {
    event.preventDefault();
    setChosen(i);
    begun.current = [event.clientX, event.clientY];
    (event.target as Element).setPointerCapture(event.pointerId);
  };
  /** A press that has not moved leaves the point where it is. */
  const drags = (event: PointerEvent): boolean => {
    const from = begun.current;
    if (!from || !(event.target as Element).hasPointerCapture(event.pointerId)) return false;
    return (
      store.getState().draft !== null || Math.hypot(event.clientX - from[0], event.clientY - from[1]) > 3
    );
  };
  const dropped = (event: PointerEvent, i: number) => {
    if (!drags(event)) return;
    commit(edit(withPoint(points, i, placeOf(event))), what);
  };
  const add = (event: { clientX: number; clientY: number }) => {
    const [x, y] = placeOf(event);
    const next = [...points, [x, y] as Point].sort((a, b) => a[0] - b[0]);
    if (next.some((p, i) => i > 0 && p[0] - next[i - 1]![0] < 0.001)) return;
    setChosen(next.findIndex((p) => p[0] === x));
    commit(edit(next), t.aPointFor(title));
  };
  const remove = () => {
    if (points.length <= 2) return;
    commit(edit(points.filter((_, i) => i !== at)), t.aPointOff(title));
    setChosen(0);
  };
  return (
    <div className="pt-1">
      <svg
        ref={box}
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        role="group"
        aria-label={t.aDoubleClickAddsA(title)}
        className="h-44 w-full touch-none rounded border border-line bg-card"
        preserveAspectRatio="none"
        onDoubleClick={add}
      >
        {[0.25, 0.5, 0.75].map((v) => (
          <path
            key={v}
            d={`M${toX(v)} 0V${SIZE}M0 ${toY(v)}H${SIZE}`}
            className="stroke-line"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        <path
          d={curvePath(points)}
          className="fill-none stroke-ink"
          strokeWidth={1.5}
          vectorEffect="non-scaling-stroke"
        />
        {points.map(([x, y], i) => (
          <ellipse
            key={i}
            cx={toX(x)}
            cy={toY(y)}
            rx={4}
            ry={5}
            tabIndex={0}
            role="button"
            aria-label={t.pointBecomes(i + 1, x.toFixed(2), y.toFixed(2))}
            aria-pressed={i === at}
            className={`cursor-grab stroke-ink ${i === at ? "fill-accent" : "fill-card"}`}
            onFocus={() => setChosen(i)}
            onPointerDown={(event) => drag(event, i)}
            onPointerMove={(event) => drags(event) && sketch(edit(withPoint(points, i, placeOf(event))))}
            onPointerUp={(event) => dropped(event, i)}
            onDoubleClick={(event) => event.stopPropagation()}
            onKeyDown={(event) => (event.key === "Delete" || event.key === "Backspace") && remove()}
          />
        ))}
      </svg>
      <div>
        {(["from", "to"] as const).map((label, side) => (
          <NumberField
            key={label}
            name={label}
            value={points[at]![side]!}
            min={-100}
            max={100}
            onCommit={(v) => {
              const [x, y] = points[at]!;
              commit(edit(withPoint(points, at, side === 0 ? [v, y] : [x, v])), what);
            }}
          />
        ))}
      </div>
    </div>
  );
}
