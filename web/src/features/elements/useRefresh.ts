/** Asking again for all that the Elements desk shows, after something of it was changed. */
import { useQueryClient } from "@tanstack/react-query";
import { queries } from "../../api/queries";

export function useRefresh(project: number): () => Promise<void> {
  const cache = useQueryClient();
  return () => cache.invalidateQueries({ queryKey: queries.elements(project).queryKey });
}
