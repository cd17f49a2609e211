/** Standing a layer in a scene: a click on the picture, and its outline where it is seen. */
import { useState, type MouseEvent } from "react";
import { asProblem, type Problem } from "../../../api/client";
import { outOfLayer } from "../../../domain/geometry";
import { ProblemNote } from "../../../ui/basics";
import { standLayer } from "../standing";
import { text } from "../strings";
import type { Ground } from "./ground";

const t = text.StandOver;

export function StandOver({ ground }: { ground: Ground }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const { store, comp, layer, transform } = ground;
  const put = (event: MouseEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const point = ground.toComp(event.clientX - box.left, event.clientY - box.top);
    setProblem(null);
    standLayer(store, comp, layer.id, { point }).catch((error: unknown) => setProblem(asProblem(error)));
  };
  const { width, height } = transform.size ?? ground.frame;
  const [w, h] = [width / 2, height / 2];
  const corners = [
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
  ] as const;
  const seen = corners.map(([x, y]) => ground.toScreen(...outOfLayer(transform, ground.frame, [x, y])));
  return (
    <div
      data-tool="stand"
      role="application"
      aria-label={t.clickWhereItStands(layer.name)}
      className="absolute inset-0 cursor-crosshair touch-none"
      onPointerDown={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
      onClick={put}
    >
      {transform.matrix && (
        <svg aria-hidden className="pointer-events-none absolute inset-0 h-full w-full">
          <polygon points={seen.join(" ")} fill="none" stroke="black" strokeOpacity={0.6} strokeWidth={3} />
          <polygon points={seen.join(" ")} fill="none" stroke="white" strokeWidth={1.5} />
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
