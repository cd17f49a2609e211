/** A colour taken from the picture that is shown: of the pixel that is clicked, or the mean of a box. */
import { useState, type PointerEvent } from "react";
import { asProblem, type Problem } from "../../../api/client";
import { compCalls } from "../../../api/comps";
import { ProblemNote } from "../../../ui/basics";
import { boxOfMark, markOf } from "../../../ui/marks";
import type { Box, Tool } from "../deskState";
import { useDesk } from "../deskState";
import { numbersEdit } from "../numberEdit";
import { usePoint } from "../pointState";
import { text } from "../strings";
import type { Ground } from "./ground";
import { hold } from "../../../ui/hold";

const t = text.PickOver;

/** Colour of linear light, straight; null where nothing covers the box. */
export function colourIn(light: Record<string, { mean: number }>): number[] | null {
  const [alpha, ...rgb] = ["A", "R", "G", "B"].map((n) => light[n]?.mean ?? 0) as [number, ...number[]];
  return alpha > 1e-6 ? rgb.map((v) => Number((v / alpha).toPrecision(5))) : null;
}

export function PickOver({ ground, tool }: { ground: Ground; tool: Extract<Tool, { kind: "pick" }> }) {
  const [begun, setBegun] = useState<[number, number] | null>(null);
  const [box, setBox] = useState<Box | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const at = (event: PointerEvent): [number, number] => {
    const room = event.currentTarget.getBoundingClientRect();
    return ground.toComp(event.clientX - room.left, event.clientY - room.top);
  };
  const within = (event: PointerEvent) => begun && boxOfMark(markOf("box", begun, at(event), ground.frame));
  const take = async (from: Box) => {
    const { ask } = usePoint.getState();
    if (!ask) return;
    try {
      const { light } = await compCalls.measure(ground.comp, ask, from, new AbortController().signal);
      const colour = colourIn(light);
      if (!colour) {
        setProblem({ code: "nothing-there", message: t.nothingThere, advice: t.clickWhere, where: "" });
        return;
      }
      const numbers = Object.fromEntries(colour.map((v, i) => [`${tool.field}.${i}`, Math.max(0, v)]));
      ground.store.getState().commit(numbersEdit(ground.layer.id, tool.path, numbers), tool.what);
      useDesk.setState({ tool: null });
    } catch (error) {
      setProblem(asProblem(error));
    }
  };
  const corner = box && ground.toScreen(box[0], box[1]);
  const far = box && ground.toScreen(box[2], box[3]);
  return (
    <div
      data-tool="pick"
      role="application"
      aria-label={t.clickTheColour(tool.what)}
      className="absolute inset-0 cursor-crosshair touch-none"
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.stopPropagation();
        hold(event.currentTarget, event.pointerId);
        setProblem(null);
        setBegun(at(event));
      }}
      onPointerMove={(event) => setBox(within(event))}
      onPointerUp={(event) => {
        const found = within(event);
        setBegun(null);
        setBox(null);
        if (found) void take(found);
      }}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      {corner && far && (
        <svg aria-hidden className="pointer-events-none absolute inset-0 h-full w-full">
          <rect
            x={corner[0]}
            y={corner[1]}
            width={far[0] - corner[0]}
            height={far[1] - corner[1]}
            fill="none"
            stroke="#fff"
            className="[outline:1px_solid_#000]"
          />
        </svg>
      )}
      {problem && (
        <div className="absolute inset-x-4 bottom-4">
          <ProblemNote problem={problem} />
        </div>
      )}
    </div>
  );
}
