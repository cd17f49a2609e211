/** A distance taken from what is pointed at: a click, or a drag through the picture that is seen at once. */
import { useRef, useState, type PointerEvent } from "react";
import { compCalls } from "../../../api/comps";
import { asProblem, type Problem } from "../../../api/client";
import { ProblemNote } from "../../../ui/basics";
import type { Tool } from "../deskState";
import { useDesk } from "../deskState";
import { numberEdit } from "../numberEdit";
import { text } from "../strings";
import type { Ground } from "./ground";
import { hold } from "../../../ui/hold";

const t = text.DistanceOver;

/** Rounded to what a person would type. */
const rounded = (distance: number) => Number(distance.toPrecision(5));

/** Cells of the frame along its longer side, in which distances are known while the pointer is dragged. */
const CELLS = 480;

/** Distances over the comp's frame. */
interface Distances {
  columns: number;
  rows: number;
  values: Float32Array;
}

function under(map: Distances, x: number, y: number): number {
  const [column, row] = [Math.floor(x * map.columns), Math.floor(y * map.rows)];
  const inside = column >= 0 && row >= 0 && column < map.columns && row < map.rows;
  return inside ? (map.values[row * map.columns + column] ?? 0) : 0;
}

interface Props {
  ground: Ground;
  tool: Extract<Tool, { kind: "distance" }>;
}

export function DistanceOver({ ground, tool }: Props) {
  const [problem, setProblem] = useState<Problem | null>(null);
  // one question at a time: the newest place waits
  const asking = useRef(false);
  const next = useRef<{ point: [number, number]; last: boolean } | null>(null);
  const { store, comp, layer } = ground;
  // fetched when the pointer goes down: what passes under it is known without asking
  const map = useRef<Distances | null>(null);
  const edit = (distance: number) =>
    numberEdit(layer.id, { of: "step", index: tool.step }, tool.field, rounded(distance));

  async function ask() {
    if (asking.current) return;
    asking.current = true;
    while (next.current) {
      const { point, last } = next.current;
      next.current = null;
      try {
        const { document, sketch, commit } = store.getState();
        const body = { document, frame: useDesk.getState().frame, layer: layer.id, step: tool.step, point };
        const { distance } = await compCalls.distance(comp, body);
        setProblem(null);
        if (last) commit(edit(distance), t.focusOf(layer.name));
        else sketch(edit(distance));
      } catch (error) {
        setProblem(asProblem(error));
        if (last) store.setState({ draft: null });
      }
    }
    asking.current = false;
  }

  async function fetchMap() {
    map.current = null;
    const { document } = store.getState();
    const share = CELLS / Math.max(document.width, document.height);
    const [columns, rows] = [document.width, document.height].map((n) => Math.max(1, Math.round(n * share)));
    const body = {
      document,
      frame: useDesk.getState().frame,
      layer: layer.id,
      step: tool.step,
      columns: columns ?? 1,
      rows: rows ?? 1,
    };
    // where it cannot be had every place is asked for, which tells why
    const values = await compCalls.distances(comp, body).catch(() => null);
    map.current = values && { columns: body.columns, rows: body.rows, values };
  }

  const point = (event: PointerEvent, last: boolean) => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = ground.toComp(event.clientX - box.left, event.clientY - box.top);
    const { document, sketch } = store.getState();
    const known = map.current && under(map.current, at[0] / document.width, at[1] / document.height);
    if (known && !last) {
      setProblem(null);
      sketch(edit(known));
      return;
    }
    next.current = { point: at, last };
    void ask();
  };
  return (
    <div
      data-tool="distance"
      role="application"
      aria-label={t.clickWhatIsSharp(layer.name)}
      className="absolute inset-0 cursor-crosshair touch-none"
      onPointerDown={(event) => {
        event.stopPropagation();
        if (event.button !== 0) return;
        hold(event.currentTarget, event.pointerId);
        void fetchMap();
        point(event, false);
      }}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) point(event, false);
      }}
      onPointerUp={(event) => {
        if (event.button === 0) point(event, true);
      }}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      {problem && (
        <div className="absolute inset-x-4 bottom-4">
          <ProblemNote problem={problem} />
        </div>
      )}
    </div>
  );
}
