/** Changing how elements are read, and taking it back. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, take, type ElementOut } from "../api/client";
import type { Encoding, Reading } from "../domain/comp";

export interface ReadingChange {
  elements: number[];
  reading?: Reading;
  encoding?: Encoding;
  rate?: string;
  gaps?: ElementOut["gaps"];
  kinds?: ElementOut["kinds"];
}

export function useReading(project: number) {
  const cache = useQueryClient();
  const keep = (changed: ElementOut[]) => {
    cache.setQueryData<ElementOut[]>(["elements", project], (rows) =>
      rows?.map((row) => changed.find((c) => c.id === row.id) ?? row),
    );
  };
  const set = useMutation({
    mutationFn: (change: ReadingChange) =>
      take<ElementOut[]>(client.POST("/api/elements/reading", { body: change })),
    onSuccess: keep,
  });
  const undo = useMutation({
    mutationFn: (element: number) =>
      take<ElementOut>(
        client.POST("/api/elements/{element_id}/reading/undo", { params: { path: { element_id: element } } }),
      ),
    onSuccess: (row) => keep([row]),
  });
  return { set, undo };
}
