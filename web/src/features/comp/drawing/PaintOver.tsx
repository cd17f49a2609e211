/** Painting: the stroke follows the pointer at once; on letting go it becomes part of the comp. */
import { useEffect, useRef, type PointerEvent } from "react";
import { intoLayer } from "../../../domain/geometry";
import { matteOf, withMatte, withPart, type Stroke } from "../../../domain/mattes";
import { flat, thinned } from "../../../domain/strokes";
import { useDesk, type Brush, type Tool } from "../deskState";
import type { Ground } from "./ground";
import { text } from "../strings";
import { hold } from "../../../ui/hold";

const t = text.PaintOver;

type Point = [number, number];

/** Screen pixels that a stroke may be simplified by. */
const TOLERANCE = 0.4;
/** Milliseconds that a finished stroke stays on the screen, until the picture has it. */
const STAYS = 350;

export function PaintOver({ ground, tool }: { ground: Ground; tool: Extract<Tool, { kind: "paint" }> }) {
  const brush = useDesk((d) => d.brush);
  const canvas = useRef<HTMLCanvasElement>(null);
  const ring = useRef<SVGSVGElement>(null);
  const points = useRef<Point[]>([]);
  const fading = useRef(0);
  const { width, height } = ground.room;
  const radius = (brush.size / 2) * ground.transform.scale * ground.view.zoom;
  useEffect(() => () => window.clearTimeout(fading.current), []);

  const at = (event: PointerEvent): Point => {
    const box = event.currentTarget.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  const draw = () => {
    const context = canvas.current?.getContext("2d");
    if (context) stroke(context, points.current, radius, brush);
    performance.mark("stroke-drawn");
  };
  const clear = () => canvas.current?.getContext("2d")?.clearRect(0, 0, width, height);
  const finish = () => {
    const drawn = points.current;
    points.current = [];
    if (drawn.length === 0) return;
    const inLayer = thinned(drawn, TOLERANCE).map((p) =>
      intoLayer(ground.transform, ground.frame, ground.toComp(...p)),
    );
    addStroke(ground, tool, brush, flat(inLayer));
    fading.current = window.setTimeout(clear, STAYS);
  };
  return (
    <div
      data-tool="paint"
      aria-label={t.paintOnThePicture}
      className="absolute inset-0 cursor-none touch-none"
      onPointerDown={(event) => {
        event.stopPropagation();
        if (event.button !== 0) return;
        hold(event.currentTarget, event.pointerId);
        window.clearTimeout(fading.current);
        clear();
        points.current = [at(event)];
        draw();
      }}
      onPointerMove={(event) => {
        const [x, y] = at(event);
        if (ring.current) ring.current.style.transform = `translate(${x}px, ${y}px)`;
        if (points.current.length === 0) return;
        // what the screen has not shown yet came in between
        const between = event.nativeEvent.getCoalescedEvents();
        const box = event.currentTarget.getBoundingClientRect();
        for (const e of between.slice(0, -1))
          points.current.push([e.clientX - box.left, e.clientY - box.top]);
        points.current.push([x, y]);
        draw();
      }}
      onPointerUp={finish}
      onPointerCancel={() => {
        points.current = [];
        clear();
      }}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      <canvas
        ref={canvas}
        width={width}
        height={height}
        className="pointer-events-none absolute inset-0 opacity-70"
      />
      <svg ref={ring} aria-hidden className="pointer-events-none absolute top-0 left-0 overflow-visible">
        <circle r={radius} fill="none" stroke="#000" strokeWidth={2.5} />
        <circle r={radius} fill="none" stroke="#fff" strokeWidth={1} />
        {brush.soft > 0 && (
          <circle
            r={radius * (1 - brush.soft)}
            fill="none"
            stroke="#fff"
            strokeWidth={0.8}
            strokeDasharray="2 3"
          />
        )}
      </svg>
    </div>
  );
}

/** Only the newest piece of the line: what is drawn already stays. */
function stroke(context: CanvasRenderingContext2D, points: Point[], radius: number, brush: Brush): void {
  const code = Math.round(brush.value * 255);
  context.strokeStyle = brush.erase ? "#c33" : `rgb(${code} ${code} ${code})`;
  context.lineWidth = Math.max(1, radius * 2 * (1 - brush.soft / 2));
  context.lineCap = "round";
  context.lineJoin = "round";
  context.beginPath();
  const from = points.slice(-3);
  context.moveTo(...from[0]!);
  for (const p of from) context.lineTo(...p);
  context.stroke();
}

function addStroke(
  { store, layer }: Ground,
  tool: Extract<Tool, { kind: "paint" }>,
  brush: Brush,
  points: number[],
): void {
  const { frame } = useDesk.getState();
  const [first, last] =
    brush.span === "all" ? [null, null] : brush.span === "frame" ? [frame, frame] : brush.span;
  const { size, soft, value, erase } = brush;
  const made: Stroke = { points, size, soft, value, erase, first, last };
  store.getState().commit(
    (d) =>
      withMatte(d, tool.owner, (m) => {
        const part = matteOf(d, tool.owner).parts[tool.part];
        return part?.kind === "paint" ? withPart(m, tool.part, { strokes: [...part.strokes, made] }) : m;
      }),
    t.strokeOn(layer.name),
  );
}
