/** Takes hold of a part's numbers in the picture, or lets go. */
import { PenTool } from "lucide-react";
import type { Layer } from "../../../domain/comp";
import { partOf, type PartPath } from "../../../domain/parts";
import { PER_POINT } from "../../../domain/shapes";
import { Button } from "../../../ui/basics";
import { useDesk } from "../deskState";
import { text } from "../strings";
import { formOf, samePath, toolOf } from "./hands";

const t = text.HandButton;

/** Nothing for parts that have no place in the picture. */
export function HandButton({ layer, path }: { layer: Layer; path: PartPath }) {
  const held = useDesk(
    ({ tool }) =>
      (tool?.kind === "shape" || tool?.kind === "points") &&
      tool.owner.layer === layer.id &&
      samePath(tool.path, path),
  );
  const tool = toolOf(layer, path);
  const part = partOf(layer, path);
  if (!tool || !part) return null;
  const free = formOf(part) === "free";
  const count = free ? (part["points"] as number[]).length / PER_POINT : 0;
  return (
    <div className="space-y-0.5">
      <Button
        aria-pressed={held}
        className={`min-h-6 px-1.5 py-0 ${held ? "border-accent bg-accent-soft text-accent" : ""}`}
        onClick={() => useDesk.setState({ tool: held ? null : tool })}
      >
        <PenTool className="size-3.5" /> {held ? t.done : free ? t.draw : t.move}
      </Button>
      {free && (
        <p className="text-soft">{count < 3 ? t.ofAtLeast3Points(count) : t.pointsDoubleClickOnOne(count)}</p>
      )}
    </div>
  );
}
