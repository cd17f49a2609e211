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

const t = text.DistanceOver;

/** Rounded to what a person would type. */
const rounded = (distance: number) => Number(distance.toPrecision(5));

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

  const point = (event: PointerEvent, last: boolean) => {
    const box = event.currentTarget.getBoundingClientRect();
    next.current = { point: ground.toComp(event.clientX - box.left, event.clientY - box.top), last };
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
        event.currentTarget.setPointerCapture(event.pointerId);
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
