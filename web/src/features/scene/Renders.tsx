/** Renders of the project: the newest frame as it arrives, how far each is, and what became of it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { asProblem, client, take, type CompRow, type Problem } from "../../api/client";
import { queries } from "../../api/queries";
import type { RenderOut } from "../../api/scenes";
import { counted, secondsInWords } from "../../domain/words";
import { Ask } from "../../ui/Ask";
import { Button, ProblemNote, ProgressBar } from "../../ui/basics";
import { useSetup } from "./setupStore";

const ACTIVE = new Set(["queued", "rendering"]);

export function Renders({ project }: { project: number }) {
  const renders = useQuery(queries.renders(project));
  const rows = renders.data ?? [];
  return (
    <section
      aria-label="Renders"
      className="flex h-[148px] shrink-0 overflow-x-auto border-t border-line bg-panel px-3 py-2"
    >
      {renders.error && <ProblemNote problem={asProblem(renders.error)} />}
      {renders.data && rows.length === 0 && (
        <p className="m-auto text-soft">
          Nothing rendered yet. What is rendered appears here frame by frame, then among the elements.
        </p>
      )}
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

function useSteer(row: RenderOut, project: number) {
  const cache = useQueryClient();
  const path = { render_id: row.id };
  return useMutation({
    mutationFn: async (what: "cancel" | "resume" | "again" | "anew" | "forget") => {
      const params = { params: { path } };
      if (what === "cancel") await take(client.POST("/api/renders/{render_id}/cancel", params));
      else if (what === "resume") await take(client.POST("/api/renders/{render_id}/resume", params));
      else if (what === "forget") await take(client.DELETE("/api/renders/{render_id}", params));
      else {
        const working = useSetup.getState().working;
        const document = what === "again" && working?.scene === row.scene ? working.document : null;
        await take(client.POST("/api/renders/{render_id}/again", { ...params, body: { document } }));
      }
    },
    onSettled: () => cache.invalidateQueries({ queryKey: ["renders", project] }),
  });
}

function RenderCard({ row, project }: { row: RenderOut; project: number }) {
  const steer = useSteer(row, project);
  const [laying, setLaying] = useState(false);
  const [opened, setOpened] = useState<Problem | null>(null);
  const working = useSetup((s) => s.working);
  const active = ACTIVE.has(row.state);
  const problem = row.problem ?? (steer.error ? asProblem(steer.error) : null);
  const beauty = row.parts.some((p) => p.beauty);
  return (
    <article
      aria-label={`Render ${row.name}`}
      data-state={row.state}
      className="flex w-[31rem] shrink-0 gap-3 rounded-lg border border-line bg-card p-2"
    >
      <Newest row={row} />
      <div className="flex min-w-0 flex-1 flex-col gap-1">
        <p className="shrink-0 truncate font-semibold" title={row.name}>
          {row.name}
          <span className="font-normal text-soft"> {row.version > 1 ? `made ${row.version} times` : ""}</span>
        </p>
        <p className="shrink-0 truncate text-soft">
          {row.first} to {row.last}, {counted(row.document.passes.length, "pass", "passes")}
          {row.document.use === "draft" ? ", draft" : ""}
        </p>
        {active ? (
          <>
            <ProgressBar done={row.written} total={row.count} name={`Render ${row.name}`} />
            <span className="num text-soft">
              {row.state === "queued" ? "waiting its turn" : `${row.written} of ${row.count}`}
              {row.seconds_left !== null && `, ${secondsInWords(row.seconds_left)} left`}
            </span>
          </>
        ) : (
          <span className={row.state === "failed" ? "text-error" : "text-soft"}>
            {row.state === "done" ? counted(row.parts.length, "element") : row.state}
          </span>
        )}
        <div className="mt-auto flex flex-wrap gap-1">
          {active && (
            <Button disabled={row.cancelling || steer.isPending} onClick={() => steer.mutate("cancel")}>
              {row.cancelling ? "Stopping …" : "Cancel"}
            </Button>
          )}
          {problem && <Button onClick={() => setOpened(problem)}>Why?</Button>}
          {(row.state === "failed" || row.state === "cancelled") && (
            <Button onClick={() => steer.mutate("resume")}>Go on</Button>
          )}
          {row.state === "done" && beauty && <Button onClick={() => setLaying(true)}>Lay into a comp</Button>}
          {!active && (
            <Button
              title={
                working?.scene === row.scene
                  ? "By the set-up as it is now; comps that use it follow"
                  : "By the set-up it was made with"
              }
              onClick={() => steer.mutate("again")}
            >
              Render again
            </Button>
          )}
          {!active && (
            <Button kind="quiet" title="Its elements and files stay" onClick={() => steer.mutate("forget")}>
              Remove from list
            </Button>
          )}
        </div>
      </div>
      {laying && <LayInto row={row} project={project} onClose={() => setLaying(false)} />}
      {opened && (
        <Ask title={`Render ${row.name}`} open onClose={() => setOpened(null)}>
          <ProblemNote problem={opened} />
        </Ask>
      )}
    </article>
  );
}

/** The frame that was finished last: its picture and its alpha, parted by a slanted cut. */
function Newest({ row }: { row: RenderOut }) {
  if (row.newest === null) {
    return (
      <div className="grid w-36 shrink-0 place-items-center rounded bg-well text-soft">no frame yet</div>
    );
  }
  const address = (part: string) =>
    `/api/renders/${row.id}/frames/${row.newest}?part=${part}&v=${row.version}`;
  return (
    <div className="relative w-36 shrink-0 overflow-hidden rounded bg-surround">
      <img
        src={address("colour")}
        alt={`Frame ${row.newest}`}
        className="absolute inset-0 h-full w-full object-cover"
      />
      <img
        src={address("alpha")}
        alt=""
        className="absolute inset-0 h-full w-full object-cover"
        style={{ clipPath: "polygon(72% 0, 100% 0, 100% 100%, 56% 100%)" }}
      />
      <span className="num absolute right-1 bottom-1 rounded bg-ink/80 px-1 text-[12px] text-panel">
        {row.newest}
      </span>
    </div>
  );
}

function LayInto({ row, project, onClose }: { row: RenderOut; project: number; onClose: () => void }) {
  const cache = useQueryClient();
  const comps = useQuery(queries.comps(project));
  const [done, setDone] = useState<CompRow | null>(null);
  const lay = useMutation({
    mutationFn: async (comp: CompRow) => {
      await take(
        client.POST("/api/renders/{render_id}/lay-in", {
          params: { path: { render_id: row.id } },
          body: { comp: comp.id },
        }),
      );
      return comp;
    },
    onSuccess: async (comp) => {
      await cache.invalidateQueries({ queryKey: ["comp"] });
      setDone(comp);
    },
  });
  const count = row.parts.filter((p) => p.beauty).length;
  return (
    <Ask title={`Lay ${row.name} into a comp`} open onClose={onClose}>
      {done ? (
        <p>
          {count === 1 ? "One layer lies" : `${count} layers lie`} on top of{" "}
          <Link className="underline" to={`/projects/${project}/comp/${done.id}`}>
            {done.name}
          </Link>
          . It can be undone there.
        </p>
      ) : (
        <div className="space-y-2">
          <p className="text-soft">
            {count === 1 ? "Its picture goes" : `Its ${count} layers go, the farthest first,`} on top of the
            others.
          </p>
          {comps.data?.length === 0 && <p>There is no comp yet; make one on the Comp desk.</p>}
          <ul className="space-y-1">
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
