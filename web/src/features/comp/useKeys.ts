/** Keys of the comp desk; what they do stands in the table of commands. */
import { useEffect } from "react";
import { commandOf } from "./commands";
import type { DocumentStore } from "./documentStore";

function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.matches("input, textarea, select, [role=slider], [role=radio], [role=option]") ||
      !!target.closest("[role=dialog], [role=menu]"))
  );
}

export function useKeys(store: DocumentStore): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        event.preventDefault();
        if (event.shiftKey) store.getState().redo();
        else store.getState().undo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      const command = commandOf(event.key, event.shiftKey);
      if (!command) return;
      event.preventDefault();
      if (command.can?.(store) ?? true) command.run(store);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [store]);
}
