/** Renders of the project: the newest frame as it arrives, how far each is, and what became of it. */
import { Plus } from "lucide-react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { asProblem, client, take, type CompRow, type Problem } from "../../api/client";
import { hasEnded } from "../../api/jobs";
import { queries } from "../../api/queries";
import type { RenderOut } from "../../api/scenes";
import { counted } from "../../domain/words";
import { JobButtons, JobProgress, stateInWords, useSteer } from "../../parts/job";
import { Ask } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { useSetup } from "./setupStore";
import { text } from "./strings";

const t = text.Renders;

export function Renders({ project }: { project: number }) {
  const renders = useQuery(queries.renders(project));
  const rows = renders.data ?? [];
  return (
    <section
      aria-label={t.renders}
      className="flex h-[148px] shrink-0 overflow-x-auto border-t border-line bg-panel px-3 py-2"
    >
      {renders.error && <ProblemNote problem={asProblem(renders.error)} />}
      {renders.data && rows.length === 0 && <p className="m-auto text-soft">{t.nothingRenderedYetWhatIs}</p>}
      <ul className="flex gap-2">
        {rows.map((row) => (
          <li key={row.id} className="flex">
            <RenderCard row={row} project={project} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Render it again by the set-up as it is on the desk, where that is of the same scene. */
function useAgain(row: RenderOut, project: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: () => {
      const working = useSetup.getState().working;
      const document = working?.scene === row.scene ? working.document : null;
      const params = { path: { render_id: row.id } };
      return take(client.POST("/api/renders/{render_id}/again", { params, body: { document } }));
    },
    onSettled: () => cache.invalidateQueries({ queryKey: ["jobs", project] }),
  });
}

function RenderCard({ row, project }: { row: RenderOut; project: number }) {
  const { job } = row;
  const { steer, busy, problem: refused } = useSteer(job, project);
  const again = useAgain(row, project);
  const [laying, setLaying] = useState(false);
  const [opened, setOpened] = useState<Problem | null>(null);
  const working = useSetup((s) => s.working);
  const active = !hasEnded(job);
  const problem = job.problem ?? refused ?? (again.error ? asProblem(again.error) : null);
  const beauty = row.parts.some((p) => p.beauty);
  return (
    <article
      aria-label={t.render(row.name)}
      data-state={job.state}
      className="flex w-[33rem] shrink-0 gap-3 rounded-lg border border-line bg-card p-2"
    >
      <Newest row={row} />
      <div className="flex min-w-0 flex-1 flex-col gap-1">
        <p className="shrink-0 truncate font-semibold" title={row.name}>
          {row.name}
          <span className="font-normal text-soft"> {row.version > 1 ? t.madeTimes(row.version) : ""}</span>
        </p>
        <p className="shrink-0 truncate text-soft">
          {row.first}
          {t.to}
          {row.last}, {counted(row.document.passes.length, "pass", "passes")}
          {row.document.use === "draft" ? t.draft : ""}
        </p>
        {active ? (
          <JobProgress job={job} name={t.render(row.name)} written="rendered" />
        ) : (
          <span className={job.state === "failed" ? "text-error" : "text-soft"}>
            {job.state === "done" ? counted(row.parts.length, "element") : stateInWords(job)}
          </span>
        )}
        <div className="mt-auto flex flex-wrap gap-1">
          {problem && <Button onClick={() => setOpened(problem)}>{t.why}</Button>}
          {job.state === "done" && beauty && (
            <Button onClick={() => setLaying(true)}>{t.layIntoAComp}</Button>
          )}
          {!active && (
            <Button
              title={working?.scene === row.scene ? t.byTheSetUpAs : t.byTheSetUpIt}
              disabled={again.isPending}
              onClick={() => again.mutate()}
            >
              {t.renderAgain}
            </Button>
          )}
          <JobButtons job={job} stays={t.whatStays} steer={steer} busy={busy} />
        </div>
      </div>
      {laying && <LayInto row={row} project={project} onClose={() => setLaying(false)} />}
      {opened && (
        <Ask title={t.render(row.name)} open onClose={() => setOpened(null)}>
          <ProblemNote problem={opened} />
        </Ask>
      )}
    </article>
  );
}

/** The frame that was finished last: its picture and its alpha, parted by a slanted cut. */
function Newest({ row }: { row: RenderOut }) {
  if (row.job.newest === null) {
    return (
      <div className="grid w-36 shrink-0 place-items-center rounded bg-well text-soft">{t.noFrameYet}</div>
    );
  }
  const address = (part: string) =>
    `/api/renders/${row.id}/frames/${row.job.newest}?part=${part}&v=${row.version}`;
  return (
    <div className="relative w-36 shrink-0 overflow-hidden rounded bg-surround">
      <img
        src={address("colour")}
        alt={t.frame(row.job.newest)}
        className="absolute inset-0 h-full w-full object-cover"
      />
      <img
        src={address("alpha")}
        alt=""
        className="absolute inset-0 h-full w-full object-cover"
        style={{ clipPath: "polygon(72% 0, 100% 0, 100% 100%, 56% 100%)" }}
      />
      <span className="num absolute right-1 bottom-1 rounded bg-ink/80 px-1 text-[12px] text-panel">
        {row.job.newest}
      </span>
    </div>
  );
}

/** The comp that a render was laid into. */
type Laid = Pick<CompRow, "id" | "name">;

function LayInto({ row, project, onClose }: { row: RenderOut; project: number; onClose: () => void }) {
  const cache = useQueryClient();
  const comps = useQuery(queries.comps(project));
  const [done, setDone] = useState<Laid | null>(null);
  const lay = useMutation({
    mutationFn: async (comp: Laid | null): Promise<Laid> => {
      const laid = await take<{ comp: number }>(
        client.POST("/api/renders/{render_id}/lay-in", {
          params: { path: { render_id: row.id } },
          body: { comp: comp?.id ?? null },
        }),
      );
      return comp ?? { id: laid.comp, name: row.name };
    },
    onSuccess: async (comp) => {
      await Promise.all(
        [["comp"], ["comps"], ["elements"]].map((queryKey) => cache.invalidateQueries({ queryKey })),
      );
      setDone(comp);
    },
  });
  return (
    <Ask title={t.layIntoAComp2(row.name)} open onClose={onClose}>
      {done ? (
        <p>
          {t.itLiesIn}{" "}
          <Link className="underline" to={`/projects/${project}/comp/${done.id}`}>
            {done.name}
          </Link>
          {t.itCanBeUndoneThere}
        </p>
      ) : (
        <div className="space-y-2">
          <p className="text-soft">{t.itsPassesGoAsOneGroup}</p>
          <ul className="space-y-1">
            <li>
              <Button
                className="w-full !justify-start"
                disabled={lay.isPending}
                onClick={() => lay.mutate(null)}
              >
                <Plus className="size-4" />
                {t.aNewComp(row.name)}
              </Button>
            </li>
            {comps.data?.map((comp) => (
              <li key={comp.id}>
                <Button
                  className="w-full !justify-start"
                  disabled={lay.isPending}
                  onClick={() => lay.mutate(comp)}
                >
                  <span className="truncate">{comp.name}</span>
                </Button>
              </li>
            ))}
          </ul>
          {lay.error && <ProblemNote problem={asProblem(lay.error)} />}
        </div>
      )}
    </Ask>
  );
}
