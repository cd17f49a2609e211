/** Ctrl Z and Ctrl Shift Z on a desk; what is typed, and a dialog that is open, keep their own. */
import { useEffect, useRef } from "react";

const TYPED = "input:not([type=checkbox], [type=radio], [type=range]), textarea, [role=dialog] *";

interface Ways {
  /** None where there is nothing to take back. */
  undo?: (() => void) | undefined;
  redo?: () => void;
}

export function useUndoKeys(ways: Ways): void {
  const now = useRef(ways);
  useEffect(() => {
    now.current = ways;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      if (event.target instanceof HTMLElement && event.target.matches(TYPED)) return;
      event.preventDefault();
      if (event.shiftKey) now.current.redo?.();
      else now.current.undo?.();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
