/** Keys of the comp desk; what they do stands in the table of commands. */
import { useEffect } from "react";
import { commandOf } from "./commands";
import type { DocumentStore } from "./documentStore";

/** Where every key is text, or chooses from a list or menu by its first letter. */
const TAKES_ALL = [
  "input, textarea, select, [role=option]",
  "[role=dialog], [role=dialog] *, [role=menu], [role=menu] *",
].join();
/** Where the keys below move a choice or a bead; letters stay with the desk. */
const TAKES_MOVES = "[role=slider], [role=radio]";
const MOVES = new Set([" ", "Enter", "Home", "End", "PageUp", "PageDown"]);

function takenBy(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return (
    target.matches(TAKES_ALL) || (target.matches(TAKES_MOVES) && (MOVES.has(key) || key.startsWith("Arrow")))
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
      if (event.altKey || takenBy(event.target, event.key)) return;
      const ctrl = event.ctrlKey || event.metaKey;
      // words that are marked on the page are copied as ever
      if (ctrl && window.getSelection()?.toString()) return;
      const command = commandOf(event.key, event.shiftKey, ctrl);
      if (!command) return;
      event.preventDefault();
      if (command.can?.(store) ?? true) command.run(store);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [store]);
}
