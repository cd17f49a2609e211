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

/** What Space and Enter press where the keyboard has led to it; after a click they stay with the desk. */
const PRESSED = "button, a[href], summary, [role=button]";

function takenBy(target: EventTarget | null, key: string, led: boolean): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return (
    target.matches(TAKES_ALL) ||
    (target.matches(TAKES_MOVES) && (MOVES.has(key) || key.startsWith("Arrow"))) ||
    (led && (key === " " || key === "Enter") && target.matches(PRESSED))
  );
}

export function useKeys(store: DocumentStore): void {
  useEffect(() => {
    // whether Tab came after the last click: `:focus-visible` is so after any key
    let led = false;
    const onPointer = () => {
      led = false;
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "Tab") led = true;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        event.preventDefault();
        if (event.shiftKey) store.getState().redo();
        else store.getState().undo();
        return;
      }
      if (event.altKey || takenBy(event.target, event.key, led)) return;
      const ctrl = event.ctrlKey || event.metaKey;
      // words that are marked on the page are copied as ever
      if (ctrl && window.getSelection()?.toString()) return;
      const command = commandOf(event.key, event.shiftKey, ctrl);
      if (!command) return;
      event.preventDefault();
      if (command.can?.(store) ?? true) command.run(store);
    };
    const stop = new AbortController();
    // what stops a press from bubbling, such as a card that is dragged, is a press all the same
    window.addEventListener("pointerdown", onPointer, { signal: stop.signal, capture: true });
    window.addEventListener("keydown", onKey, { signal: stop.signal });
    return () => stop.abort();
  }, [store]);
}
