/** Server-sent events: what changed in the project is asked for again. */
import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

const KINDS = ["elements", "colour", "fonts", "comps", "cameras", "scenes", "jobs"] as const;
type Kind = (typeof KINDS)[number];
type Change = { kind: Kind | "everything"; id: number };

/** Milliseconds in which changes are gathered: one is often of several, and the picture goes first. */
const GATHERED = 250;

export function useChanges(project: number): void {
  const cache = useQueryClient();
  useEffect(() => {
    const source = new EventSource(`/api/projects/${project}/events`);
    const changed = new Set<Kind>();
    let timer: number | undefined;
    const ask = () => {
      timer = undefined;
      for (const kind of changed) {
        askAgain(cache, [kind, project]);
        if (kind === "scenes") askAgain(cache, ["setups"]);
        if (kind === "cameras") askAgain(cache, ["place"]);
        if (kind === "comps") askAgain(cache, ["comp"]);
      }
      changed.clear();
    };
    source.onmessage = (event: MessageEvent<string>) => {
      const change = JSON.parse(event.data) as Change;
      for (const kind of change.kind === "everything" ? KINDS : [change.kind]) changed.add(kind);
      timer ??= window.setTimeout(ask, GATHERED);
    };
    return () => {
      source.close();
      window.clearTimeout(timer);
    };
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
