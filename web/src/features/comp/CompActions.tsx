/** What is done with a comp as a whole: duplicated, or deleted once that is confirmed. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { asProblem, client, take, type CompOut, type CompRow } from "../../api/client";
import { documentOf } from "../../domain/comp";
import { Ask } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { text } from "./strings";

const t = text.CompActions;

/** A name that no comp of the project has. */
export function copyName(name: string, taken: readonly string[]): string {
  const base = t.copyOf(name);
  let found = base;
  for (let n = 2; taken.includes(found); n += 1) found = `${base} ${n}`;
  return found;
}

export function useDuplicate(rows: CompRow[], project: number) {
  const cache = useQueryClient();
  const go = useNavigate();
  return useMutation({
    mutationFn: async (comp: CompRow) => {
      const path = { comp_id: comp.id };
      const now = await take<CompOut>(client.GET("/api/comps/{comp_id}", { params: { path } }));
      const name = copyName(
        comp.name,
        rows.map((r) => r.name),
      );
      return take<CompOut>(
        client.POST("/api/projects/{project_id}/comps", {
          params: { path: { project_id: project } },
          body: { ...documentOf(now.document), name } as never,
        }),
      );
    },
    onSuccess: async (made) => {
      await cache.invalidateQueries({ queryKey: ["comps", project] });
      void go(`/projects/${project}/comp/${made.id}`);
    },
  });
}

interface Props {
  comp: CompRow | null;
  project: number;
  onClose: () => void;
}

/** Asks first: a deleted comp does not come back. */
export function DeleteComp({ comp, project, onClose }: Props) {
  const cache = useQueryClient();
  const gone = useMutation({
    mutationFn: (id: number) =>
      take<unknown>(client.DELETE("/api/comps/{comp_id}", { params: { path: { comp_id: id } } })),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["comps", project] });
      onClose();
    },
  });
  return (
    <Ask title={t.deleteThis(comp?.name ?? "")} open={comp !== null} onClose={onClose}>
      <p>{t.itsLayersGo}</p>
      {gone.error && <ProblemNote problem={asProblem(gone.error)} />}
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={onClose}>{t.cancel}</Button>
        <Button kind="main" disabled={gone.isPending} onClick={() => comp && gone.mutate(comp.id)}>
          {t.deleteIt}
        </Button>
      </div>
    </Ask>
  );
}
