/** Boxes dragged on the picture: what stays and what goes, or a clean piece of the screen. */
import { useState, type PointerEvent } from "react";
import { asProblem, type Problem } from "../../../api/client";
import { compCalls } from "../../../api/comps";
import { matteOf, withMatte, withPart, type PartChange } from "../../../domain/mattes";
import { boxOfMark, markOf } from "../../../ui/marks";
import { ProblemNote } from "../../../ui/basics";
import { useDesk, type Box, type Tool } from "../deskState";
import type { Ground } from "./ground";
import { text } from "../strings";

const t = text.BoxOver;

type Boxes = Extract<Tool, { kind: "regions" | "screen" }>;

export function BoxOver({ ground, tool }: { ground: Ground; tool: Boxes }) {
  const regions = useDesk((d) => d.regions);
  const [begun, setBegun] = useState<[number, number] | null>(null);
  const [now, setNow] = useState<Box | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const at = (event: PointerEvent): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    return ground.toComp(event.clientX - box.left, event.clientY - box.top);
  };
  const finish = (box: Box) => {
    if (tool.kind === "screen") void pick(ground, tool, box).then(setProblem);
    else useDesk.setState({ regions: { ...regions, [tool.what]: [...regions[tool.what], box] } });
  };
  const rows =
    tool.kind === "regions"
      ? [
          ...regions.stay.map((box) => ({ box, what: "stay" as const })),
          ...regions.go.map((box) => ({ box, what: "go" as const })),
        ]
      : [];
  const mine = tool.kind === "regions" ? tool.what : ("stay" as const);
  return (
    <div
      data-tool={tool.kind}
      className="absolute inset-0 cursor-crosshair touch-none"
      onPointerDown={(event) => {
        event.stopPropagation();
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        setProblem(null);
        setBegun(at(event));
      }}
      onPointerMove={(event) => {
        if (begun) setNow(boxOfMark(markOf("box", begun, at(event), ground.frame)));
      }}
      onPointerUp={() => {
        if (now) finish(now);
        setBegun(null);
        setNow(null);
      }}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      <svg aria-hidden className="pointer-events-none absolute inset-0 h-full w-full">
        {[...rows, ...(now ? [{ box: now, what: mine }] : [])].map(({ box, what }, i) => (
          <Marked
            key={i}
            box={box}
            what={what}
            words={tool.kind === "screen" ? t.screen : what === "stay" ? t.stays : t.goes}
            ground={ground}
          />
        ))}
      </svg>
      {problem && (
        <div className="absolute inset-x-4 bottom-4">
          <ProblemNote problem={problem} />
        </div>
      )}
    </div>
  );
}

/** What stays has a whole line, what goes a broken one. */
function Marked({
  box,
  what,
  words,
  ground,
}: {
  box: Box;
  what: "stay" | "go";
  words: string;
  ground: Ground;
}) {
  const [x0, y0] = ground.toScreen(box[0], box[1]);
  const [x1, y1] = ground.toScreen(box[2], box[3]);
  const rect = { x: x0, y: y0, width: x1 - x0, height: y1 - y0, fill: "none" };
  return (
    <g>
      <rect {...rect} stroke="#000" strokeWidth={3} />
      <rect {...rect} stroke="#fff" strokeWidth={1.2} strokeDasharray={what === "go" ? "5 4" : undefined} />
      <text
        x={x0 + 4}
        y={y0 + 14}
        className="fill-white text-[12px] font-semibold [paint-order:stroke] [stroke-width:3px] [stroke:#000]"
      >
        {words}
      </text>
    </g>
  );
}

/** The colour under the box becomes the screen's, with the points that clear it and keep cores whole; else what is wrong. */
async function pick(
  ground: Ground,
  tool: Extract<Boxes, { kind: "screen" }>,
  within: Box,
): Promise<Problem | null> {
  const { store, layer, comp } = ground;
  const { document } = store.getState();
  const part = matteOf(document, tool.owner).parts[tool.part];
  if (part?.kind !== "key") return null;
  try {
    const { frame } = useDesk.getState();
    const got = await compCalls.screenColour(comp, { document, frame, layer: layer.id, part, within });
    const change: PartChange = { screen_colour: got.screen_colour, black: got.black, white: got.white };
    store
      .getState()
      .commit(
        (d) => withMatte(d, tool.owner, (m) => withPart(m, tool.part, change)),
        t.screenColourOfTheKey(layer.name),
      );
    useDesk.setState({ tool: null });
    return null;
  } catch (error) {
    return asProblem(error);
  }
}
