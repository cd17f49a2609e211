/** The sign of a number's keys: whether it has a curve, and whether a key stands at this frame. */
import { KeyRound } from "lucide-react";
import { Tip } from "../ui/basics";
import { text } from "./strings";

const t = text.KeyToggle;

interface Props {
  /** The number's. */
  name: string;
  curve: boolean;
  here: boolean;
  onToggle: () => void;
}

export function KeyToggle({ name, curve, here, onToggle }: Props) {
  const says = here ? t.takeTheKeyOfAt(name) : curve ? t.setAKeyOfAt(name) : t.letChangeSetAFirst(name);
  return (
    <Tip text={says}>
      <button
        type="button"
        aria-label={says}
        aria-pressed={here}
        className={`grid size-6 shrink-0 place-items-center rounded hover:bg-well ${here ? "bg-accent text-on-accent hover:bg-accent" : curve ? "text-accent" : "text-soft opacity-50 hover:opacity-100"}`}
        onClick={onToggle}
      >
        <KeyRound className="size-3.5" />
      </button>
    </Tip>
  );
}
