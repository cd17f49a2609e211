/** The foot: size, time to draw, undo and redo, and whether everything is saved. */
import { Redo2, Undo2 } from "lucide-react";
import { SignButton } from "../../ui/basics";
import type { DocumentStore } from "./documentStore";

export function Foot({ store, milliseconds }: { store: DocumentStore; milliseconds: number | null }) {
  const { comp, document, saving, problem, undo, redo } = store();
  return (
    <footer className="num flex h-7 shrink-0 items-center gap-4 border-t border-line bg-card px-3 text-soft">
      <span>
        {document.width} × {document.height}
      </span>
      <span>{milliseconds === null ? "drawing …" : `drawn in ${Math.round(milliseconds)} ms`}</span>
      <span className="ml-auto flex items-center gap-1">
        <SignButton
          name={comp.can_undo ? `Undo: ${comp.can_undo} (Ctrl Z)` : "Nothing to undo"}
          disabled={!comp.can_undo || saving}
          onClick={undo}
          className="min-h-5"
        >
          <Undo2 className="size-4" />
        </SignButton>
        <SignButton
          name={comp.can_redo ? `Redo: ${comp.can_redo} (Ctrl Shift Z)` : "Nothing to redo"}
          disabled={!comp.can_redo || saving}
          onClick={redo}
          className="min-h-5"
        >
          <Redo2 className="size-4" />
        </SignButton>
      </span>
      <span role="status" className={problem ? "text-error" : ""}>
        {problem ? "not saved" : saving ? "saving …" : `saved, revision ${comp.revision}`}
      </span>
    </footer>
  );
}
