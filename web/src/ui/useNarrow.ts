/** Whether the page is too narrow for everything of a row to stand side by side. */
import { useSyncExternalStore } from "react";

const query = "(max-width: 1400px)";

function subscribe(told: () => void): () => void {
  const list = window.matchMedia(query);
  list.addEventListener("change", told);
  return () => list.removeEventListener("change", told);
}

export const useNarrow = () => useSyncExternalStore(subscribe, () => window.matchMedia(query).matches);
