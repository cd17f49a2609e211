/** What is done with a comp as a whole: duplicated, deleted once that is confirmed, or brought back. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { asProblem, client, take, type CompOut, type CompRow } from "../../api/client";
import { queries } from "../../api/queries";
import { documentOf } from "../../domain/comp";
import { agoInWords } from "../../domain/words";
import { Ask } from "../../ui/Ask";
import { Button, ProblemNote, Waiting } from "../../ui/basics";
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

/** Asks first: it is gone for everybody in the project. */
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

/** Those that were deleted, each to be brought back. */
export function DeletedComps({
  project,
  open,
  onClose,
}: {
  project: number;
  open: boolean;
  onClose: () => void;
}) {
  const cache = useQueryClient();
  const go = useNavigate();
  const deleted = useQuery({ ...queries.deletedComps(project), enabled: open });
  const back = useMutation({
    mutationFn: (id: number) =>
      take<CompOut>(client.POST("/api/comps/{comp_id}/bring-back", { params: { path: { comp_id: id } } })),
    onSuccess: async (comp) => {
      await cache.invalidateQueries({ queryKey: ["comps", project] });
      onClose();
      void go(`/projects/${project}/comp/${comp.id}`);
    },
  });
  const problem = deleted.error ?? back.error;
  return (
    <Ask title={t.deletedComps} open={open} onClose={onClose}>
      <p className="text-soft">{deleted.data?.length === 0 ? t.noneDeleted : t.theyStay}</p>
      {deleted.isPending && open && <Waiting what={t.lookingForThem} />}
      <ul className="my-2 divide-y divide-line">
        {deleted.data?.map((row) => (
          <li key={row.id} className="flex items-center gap-2 py-1.5">
            <span className="min-w-0 flex-1 truncate" title={row.name}>
              {row.name}
            </span>
            <span className="text-soft" title={new Date(row.deleted).toLocaleString("en-GB")}>
              {t.deletedAgo(agoInWords(row.deleted, deleted.dataUpdatedAt))}
            </span>
            <Button
              aria-label={t.bringBack(row.name)}
              disabled={back.isPending}
              onClick={() => back.mutate(row.id)}
            >
              {t.bring}
            </Button>
          </li>
        ))}
      </ul>
      {problem && <ProblemNote problem={asProblem(problem)} />}
      <div className="flex justify-end">
        <Button onClick={onClose}>{t.close}</Button>
      </div>
    </Ask>
  );
}
