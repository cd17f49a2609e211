/** All projects a person belongs to. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { asProblem, client, take, type ListedProject, type ProjectOut } from "../../api/client";
import { queries } from "../../api/queries";
import { agoInWords, counted } from "../../domain/words";
import { TopBar } from "../../parts/Shell";
import { Ask, TextField } from "../../ui/Ask";
import { Button, Empty, ProblemNote, Waiting } from "../../ui/basics";
import { text } from "./strings";

const t = text.Projects;

export function Projects() {
  const projects = useQuery(queries.projects());
  const [asking, setAsking] = useState(false);
  const add = (
    <Button kind="main" onClick={() => setAsking(true)}>
      <Plus className="size-4" />
      {t.newProject}
    </Button>
  );
  return (
    <div className="flex h-full flex-col">
      <TopBar />
      <main className="mx-auto min-h-0 w-full max-w-6xl flex-1 overflow-auto p-6">
        <div className="mb-4 flex items-center justify-between">
          <h1 className="text-[17px] font-semibold">{t.projects}</h1>
          {projects.data?.length ? add : null}
        </div>
        {projects.isPending && <Waiting what={t.lookingForYourProjects} />}
        {projects.error && <ProblemNote problem={asProblem(projects.error)} />}
        {projects.data?.length === 0 && (
          <Empty title={t.noProjectYet} action={add}>
            {t.aProjectHoldsTheElements}
          </Empty>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-4">
          {projects.data?.map((project) => (
            <li key={project.id} className="min-w-0">
              <ProjectCard project={project} now={projects.dataUpdatedAt} />
            </li>
          ))}
        </ul>
      </main>
      <NewProject open={asking} onClose={() => setAsking(false)} />
    </div>
  );
}

/** A project with what it holds, when it was last worked on, and a picture of that. */
function ProjectCard({ project, now }: { project: ListedProject; now: number }) {
  const elements = project.counts["element"] ?? 0;
  const comps = project.counts["comp"] ?? 0;
  return (
    <Link
      to={`/projects/${project.id}/${comps > 0 ? "comp" : "elements"}`}
      className="block overflow-hidden rounded-lg border border-line bg-card hover:border-accent"
    >
      {project.picture ? (
        <img
          src={project.picture}
          alt=""
          loading="lazy"
          className="aspect-video w-full bg-well object-cover"
        />
      ) : (
        <span className="grid aspect-video w-full place-items-center bg-well px-3 text-center text-soft">
          {elements > 0 ? t.noCompYet : t.emptyYet}
        </span>
      )}
      <span className="block px-3 py-2">
        <span className="block truncate text-[15px] font-medium" title={project.name}>
          {project.name}
        </span>
        <span className="block text-soft">
          {counted(elements, "element")}, {counted(comps, "comp")}
        </span>
        <span className="block truncate text-soft" title={new Date(project.touched).toLocaleString("en-GB")}>
          {t.touched(agoInWords(project.touched, now))}, {project.members.map((m) => m.name).join(", ")}
        </span>
      </span>
    </Link>
  );
}

function NewProject({ open, onClose }: { open: boolean; onClose: () => void }) {
  const cache = useQueryClient();
  const go = useNavigate();
  const [name, setName] = useState("");
  const add = useMutation({
    mutationFn: () => take<ProjectOut>(client.POST("/api/projects", { body: { name } })),
    onSuccess: async (project) => {
      await cache.invalidateQueries({ queryKey: ["projects"] });
      void go(`/projects/${project.id}/elements`);
    },
  });
  return (
    <Ask title={t.newProject2} open={open} onClose={onClose}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate();
        }}
      >
        <TextField label={t.name} value={name} onChange={setName} autoFocus />
        {add.error && <ProblemNote problem={asProblem(add.error)} />}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t.cancel}</Button>
          <Button kind="main" type="submit" disabled={!name.trim() || add.isPending}>
            {t.create}
          </Button>
        </div>
      </form>
    </Ask>
  );
}
