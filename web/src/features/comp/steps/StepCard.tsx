/** One step: what it is and does in a line, and its controls when it is open. */
import { ChevronRight, Copy, GripVertical, Trash2 } from "lucide-react";
import { memo, type PointerEvent } from "react";
import { changeStep, changeSteps, type Layer, type Step } from "../../../domain/comp";
import { SignButton } from "../../../ui/basics";
import { useDesk } from "../deskState";
import { HandButton } from "../drawing/HandButton";
import type { DocumentStore } from "../documentStore";
import { LevelsHandles } from "./LevelsHandles";
import { StepField } from "./StepField";
import { ownFields, stepInWords, type StepTable } from "./table";
import { ActsWhere, actsWhereInWords } from "./ActsWhere";
import { text } from "../strings";

const t = text.StepCard;

interface Props {
  store: DocumentStore;
  layer: Layer;
  step: Step;
  index: number;
  table: StepTable;
  open: boolean;
  dragged: boolean;
  onToggle: (index: number) => void;
  onGrip: (event: PointerEvent, row: string) => void;
  onMove: (from: number, to: number) => void;
}

/** While a number of one step is dragged the cards of the others are not drawn again. */
function alike(a: Props, b: Props): boolean {
  return (
    a.layer.id === b.layer.id &&
    a.layer.name === b.layer.name &&
    a.layer.steps.length === b.layer.steps.length &&
    (["store", "step", "index", "table", "open", "dragged", "onToggle", "onGrip", "onMove"] as const).every(
      (name) => a[name] === b[name],
    )
  );
}

export const StepCard = memo(function StepCard(props: Props) {
  const { store, layer, step, index, table, open, dragged, onToggle, onGrip, onMove } = props;
  const { commit } = store.getState();
  const setCopied = useDesk((d) => d.set);
  const where = actsWhereInWords(step);
  return (
    <section
      data-row={index}
      aria-label={t.step(index + 1, table.title)}
      className={`rounded-md border bg-panel px-1.5 py-1 ${dragged ? "border-accent opacity-60" : "border-line"}`}
    >
      <div className="flex items-center gap-1">
        <button
          type="button"
          aria-label={t.moveDragOrArrowUp(table.title)}
          title={t.dragToReorderFromThe}
          className="cursor-grab touch-none rounded text-soft hover:bg-well"
          onPointerDown={(event) => onGrip(event, String(index))}
          onKeyDown={(event) => {
            const by = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
            if (!by) return;
            event.preventDefault();
            onMove(index, Math.max(0, Math.min(layer.steps.length - 1, index + by)));
          }}
        >
          <GripVertical className="size-4" />
        </button>
        <input
          type="checkbox"
          aria-label={t.on(table.title)}
          checked={step.on}
          onChange={(event) =>
            commit(
              (d) => changeStep(d, layer.id, index, { on: event.target.checked }),
              `${table.title} ${event.target.checked ? "on" : "off"}`,
            )
          }
          className="size-4 shrink-0 accent-[var(--accent)]"
        />
        <button
          type="button"
          aria-expanded={open}
          title={table.help}
          className="flex min-w-0 flex-1 items-center gap-1 rounded px-0.5 py-0.5 text-left hover:bg-well"
          onClick={() => onToggle(index)}
        >
          <ChevronRight className={`size-3.5 shrink-0 text-soft ${open ? "rotate-90" : ""}`} />
          <span className={`font-medium ${step.on ? "" : "text-soft line-through"}`}>{table.title}</span>
          <span className="min-w-0 flex-1 truncate text-soft">
            {[stepInWords(step, table), where].filter(Boolean).join("; ")}
          </span>
        </button>
        <SignButton name={t.copyThisStep} onClick={() => setCopied({ copied: [step] })}>
          <Copy className="size-3.5" />
        </SignButton>
        <SignButton
          name={t.takeThisStepOut}
          onClick={() =>
            commit(
              (d) => changeSteps(d, layer.id, (steps) => steps.filter((_, i) => i !== index)),
              t.off(table.title, layer.name),
            )
          }
        >
          <Trash2 className="size-3.5" />
        </SignButton>
      </div>
      {open && (
        <div className="space-y-0.5 pt-1 pl-1">
          {step.kind === "levels" && <LevelsHandles {...{ store, layer, index, step }} />}
          <HandButton layer={layer} path={{ of: "step", index }} />
          {ownFields(table).map(([name, field]) => (
            <StepField key={name} {...{ store, layer, index, step, name, field }} title={table.title} />
          ))}
          <ActsWhere {...{ store, layer, step, index, table }} />
        </div>
      )}
    </section>
  );
}, alike);
