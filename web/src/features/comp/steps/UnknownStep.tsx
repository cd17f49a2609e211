/** A step that this version does not know: kept as it came, named, and off or out by hand. */
import { Trash2 } from "lucide-react";
import { changeStep, changeSteps, type Step } from "../../../domain/comp";
import { SignButton } from "../../../ui/basics";
import type { DocumentStore } from "../documentStore";
import { text } from "../strings";

const t = text.UnknownStep;

interface Props {
  store: DocumentStore;
  layer: string;
  step: Step;
  index: number;
}

export function UnknownStep({ store, layer, step, index }: Props) {
  const { commit } = store.getState();
  const kind: string = step.kind;
  return (
    <section
      data-row={index}
      aria-label={t.stepNotKnownHere(index + 1, kind)}
      className="flex items-center gap-1.5 rounded-md border border-warn bg-panel px-1.5 py-1"
    >
      <input
        type="checkbox"
        aria-label={t.on(kind)}
        checked={step.on}
        onChange={(event) =>
          commit((d) => changeStep(d, layer, index, { on: event.target.checked }), t.switched(kind))
        }
        className="size-4 shrink-0 accent-[var(--accent)]"
      />
      <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">
        <b>{kind}</b>
        {t.notKnownHereItIs}
      </span>
      <SignButton
        name={t.takeThisStepOut}
        onClick={() =>
          commit((d) => changeSteps(d, layer, (s) => s.filter((_, i) => i !== index)), t.off(kind))
        }
      >
        <Trash2 className="size-3.5" />
      </SignButton>
    </section>
  );
}
