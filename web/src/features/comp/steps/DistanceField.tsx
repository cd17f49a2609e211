/** A distance: typed, dragged, or taken from what is clicked in the picture. */
import type { ReactNode } from "react";
import { Button } from "../../../ui/basics";
import { useDesk } from "../deskState";
import { text } from "../strings";
import type { StepFieldProps } from "./fieldProps";

const t = text.DistanceField;

/** ``children``: the number itself. */
export function DistanceField({ layer, index, name, children }: StepFieldProps & { children: ReactNode }) {
  const tool = useDesk((d) => d.tool);
  const picking = tool?.kind === "distance" && tool.owner.layer === layer.id && tool.step === index;
  const pick = {
    kind: "distance",
    owner: { layer: layer.id, step: null },
    step: index,
    field: name,
  } as const;
  return (
    <div>
      {children}
      <div className="flex flex-col items-start gap-0.5 pl-22">
        <Button
          aria-pressed={picking}
          className="aria-pressed:border-accent aria-pressed:text-accent"
          onClick={() => useDesk.setState({ tool: picking ? null : pick })}
        >
          {t.pick}
        </Button>
        {picking && <span className="text-soft">{t.clickOrDrag}</span>}
      </div>
    </div>
  );
}
