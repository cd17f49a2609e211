/** Ctrl Z on a desk whose last change can be taken back by one call; what is typed stays with its field. */
import { useEffect, useRef } from "react";

const TYPED = "input:not([type=checkbox], [type=radio], [type=range]), textarea, [role=dialog] *";

/** ``run``: null where there is nothing to take back. */
export function useUndoKey(run: (() => void) | null): void {
  const now = useRef(run);
  useEffect(() => {
    now.current = run;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.shiftKey || event.key.toLowerCase() !== "z") return;
      if (event.target instanceof HTMLElement && event.target.matches(TYPED)) return;
      event.preventDefault();
      now.current?.();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
