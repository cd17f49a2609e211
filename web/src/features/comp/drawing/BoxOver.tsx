/** Boxes dragged on the picture: what stays and goes, a clean piece of the screen, pieces that are matched. */
import { useState, type PointerEvent } from "react";
import { asProblem, type Problem } from "../../../api/client";
import { compCalls } from "../../../api/comps";
import { matteOf, withMatte, withPart, type PartChange } from "../../../domain/mattes";
import { boxOfMark, markOf } from "../../../ui/marks";
import { ProblemNote } from "../../../ui/basics";
import { useDesk, useDeskFields, type Box, type DeskState, type Matching, type Tool } from "../deskState";
import type { Ground } from "./ground";
import { text } from "../strings";
import { hold } from "../../../ui/hold";

const t = text.BoxOver;

type Boxes = Extract<Tool, { kind: "regions" | "screen" | "match" }>;

/** A box with a word in it; what goes, or is the plate's, has a broken line. */
interface Worded {
  box: Box;
  words: string;
  broken: boolean;
}

export function BoxOver({ ground, tool }: { ground: Ground; tool: Boxes }) {
  const { regions, matching } = useDeskFields("regions", "matching");
  const [begun, setBegun] = useState<[number, number] | null>(null);
  const [now, setNow] = useState<Box | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const at = (event: PointerEvent): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    return ground.toComp(event.clientX - box.left, event.clientY - box.top);
  };
  const finish = (box: Box) => {
    if (tool.kind === "screen") void pick(ground, tool, box).then(setProblem);
    else if (tool.kind === "match") matchedPiece(tool, box);
    else useDesk.setState({ regions: { ...regions, [tool.what]: [...regions[tool.what], box] } });
  };
  const mine = { broken: isBroken(tool), words: wordsOf(tool) };
  const rows = [...marked(tool, regions, matching), ...(now ? [{ box: now, ...mine }] : [])];
  return (
    <div
      data-tool={tool.kind}
      className="absolute inset-0 cursor-crosshair touch-none"
      onPointerDown={(event) => {
        event.stopPropagation();
        if (event.button !== 0) return;
        hold(event.currentTarget, event.pointerId);
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
        {rows.map((row, i) => (
          <Marked key={i} row={row} ground={ground} />
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

const isBroken = (tool: Boxes) =>
  (tool.kind === "regions" && tool.what === "go") || (tool.kind === "match" && tool.what === "plate");

function wordsOf(tool: Boxes): string {
  if (tool.kind === "screen") return t.screen;
  if (tool.kind === "match") return tool.what === "own" ? t.layer : t.plate;
  return tool.what === "stay" ? t.stays : t.goes;
}

/** What was marked before with the same tool. */
function marked(tool: Boxes, regions: DeskState["regions"], matching: Matching | null): Worded[] {
  if (tool.kind === "screen") return [];
  const [whole, broken, words] =
    tool.kind === "regions"
      ? [regions.stay, regions.go, [t.stays, t.goes]]
      : [listed(matching?.own), listed(matching?.there), [t.layer, t.plate]];
  return [
    ...whole.map((box) => ({ box, words: words[0]!, broken: false })),
    ...broken.map((box) => ({ box, words: words[1]!, broken: true })),
  ];
}

const listed = (box: Box | null | undefined): Box[] => (box ? [box] : []);

/** After the layer's piece comes the plate's. */
function matchedPiece(tool: Extract<Boxes, { kind: "match" }>, box: Box): void {
  const { matching } = useDesk.getState();
  if (!matching) return;
  const now = tool.what === "own" ? { ...matching, own: box } : { ...matching, there: box };
  useDesk.setState({ matching: now, tool: { ...tool, what: now.there ? tool.what : "plate" } });
}

function Marked({ row: { box, words, broken }, ground }: { row: Worded; ground: Ground }) {
  const [x0, y0] = ground.toScreen(box[0], box[1]);
  const [x1, y1] = ground.toScreen(box[2], box[3]);
  const rect = { x: x0, y: y0, width: x1 - x0, height: y1 - y0, fill: "none" };
  return (
    <g>
      <rect {...rect} stroke="#000" strokeWidth={3} />
      <rect {...rect} stroke="#fff" strokeWidth={1.2} strokeDasharray={broken ? "5 4" : undefined} />
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
