/** Server-sent events: what changed in the project is asked for again. */
import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

type Change = { kind: "elements" | "comps" | "cameras" | "scenes" | "jobs" | "everything"; id: number };

export function useChanges(project: number): void {
  const cache = useQueryClient();
  useEffect(() => {
    const source = new EventSource(`/api/projects/${project}/events`);
    source.onmessage = (event: MessageEvent<string>) => {
      const change = JSON.parse(event.data) as Change;
      const kinds =
        change.kind === "everything"
          ? (["elements", "comps", "cameras", "scenes", "jobs"] as const)
          : [change.kind];
      for (const kind of kinds) {
        askAgain(cache, [kind, project]);
        if (kind === "scenes") askAgain(cache, ["setups"]);
        if (kind === "cameras") askAgain(cache, ["place"]);
        if (kind === "comps") askAgain(cache, ["comp"]);
      }
    };
    return () => source.close();
  }, [cache, project]);
}

/**
 * All that is known under a key, asked for anew.
 *
 * The library lets a first answer that is on its way stand, though it may be from before the change: such a
 * one is asked for again once it has come.
 */
export function askAgain(cache: QueryClient, queryKey: readonly unknown[]): void {
  const first = cache
    .getQueryCache()
    .findAll({ queryKey })
    .filter((q) => q.state.data === undefined && q.state.fetchStatus === "fetching");
  void cache.invalidateQueries({ queryKey });
  for (const query of first) {
    const again = () => void cache.invalidateQueries({ queryKey: query.queryKey, exact: true });
    void query.promise?.then(again, again);
  }
}
