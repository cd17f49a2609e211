/** Server-sent events: what changed in the project is asked for again. */
import { useQueryClient } from "@tanstack/react-query";
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
        void cache.invalidateQueries({ queryKey: [kind, project] });
        if (kind === "scenes") void cache.invalidateQueries({ queryKey: ["setups"] });
        if (kind === "cameras") void cache.invalidateQueries({ queryKey: ["place"] });
        if (kind === "comps") void cache.invalidateQueries({ queryKey: ["comp"] });
      }
    };
    return () => source.close();
  }, [cache, project]);
}
