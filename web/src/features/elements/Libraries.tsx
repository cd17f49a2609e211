/** Library folders: registered where they lie, watched, never written to. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { Folder, LibraryBig } from "lucide-react";
import { useState } from "react";
import { asProblem } from "../../api/client";
import { elementCalls, type LibraryOut } from "../../api/elements";
import { queries } from "../../api/queries";
import { counted } from "../../domain/words";
import { Button, ProblemNote, SignButton } from "../../ui/basics";
import { Ask } from "../../ui/Ask";
import { useRefresh } from "./useRefresh";
import { text } from "./strings";

const t = text.Libraries;

export function LibraryButton({ project }: { project: number }) {
  const libraries = useQuery(queries.libraries(project));
  const [open, setOpen] = useState(false);
  const lost = libraries.data?.filter((l) => !l.there) ?? [];
  return (
    <>
      <SignButton
        name={lost.length > 0 ? t.librariesCannotBeReached(lost[0]!.name) : t.libraries}
        className={lost.length > 0 ? "text-warn" : ""}
        onClick={() => setOpen(true)}
      >
        <LibraryBig className="size-4" />
      </SignButton>
      {open && (
        <LibraryAsk project={project} libraries={libraries.data ?? []} onClose={() => setOpen(false)} />
      )}
    </>
  );
}

interface Props {
  project: number;
  libraries: LibraryOut[];
  onClose: () => void;
}

function LibraryAsk({ project, libraries, onClose }: Props) {
  const [path, setPath] = useState("");
  const again = useRefresh(project);
  const folders = useQuery({
    queryKey: ["folders", project, path],
    queryFn: () => elementCalls.folders(project, path),
  });
  const register = useMutation({
    mutationFn: () => elementCalls.register(project, path),
    onSuccess: async () => {
      await again();
      onClose(); // its elements are what is looked at next
    },
  });
  const forget = useMutation({ mutationFn: elementCalls.unregister, onSuccess: again });
  const problem = register.error ?? forget.error ?? folders.error;
  return (
    <Ask title={t.libraries} open onClose={onClose}>
      <p className="mb-2 text-soft">{t.aFolderOnTheServer}</p>
      {libraries.map((l) => (
        <div
          key={l.id}
          className="mb-1.5 flex items-center gap-2 rounded-md border border-line bg-card px-2 py-1.5"
        >
          <span className="min-w-0 flex-1">
            <span className="font-medium">{l.name}</span>{" "}
            <span className="text-soft">{counted(l.elements, "element")}</span>
            {!l.there && <span className="block text-warn">{t.itCannotBeReachedJust}</span>}
            {l.passed_over.map((entry) => (
              <span key={entry} className="block text-warn [overflow-wrap:anywhere]">
                {t.passedOver(entry)}
              </span>
            ))}
          </span>
          <Button disabled={forget.isPending} onClick={() => forget.mutate(l.id)}>
            {t.forget}
          </Button>
        </div>
      ))}
      <h3 className="mt-3 font-semibold">{t.registerAFolder}</h3>
      <div className="mt-1 flex gap-1.5">
        <input
          aria-label={t.folderOnTheServer}
          value={path}
          placeholder={t.chooseBelowOrTypeIts}
          onChange={(event) => setPath(event.target.value)}
          className="h-7 min-w-0 flex-1 rounded-md border border-line bg-card px-2"
        />
        <Button kind="main" disabled={!path || register.isPending} onClick={() => register.mutate()}>
          {t.register}
        </Button>
      </div>
      <ul
        aria-label={t.folders}
        className="mt-1.5 max-h-48 overflow-auto rounded-md border border-line bg-card"
      >
        {path && (
          <li>
            <button
              type="button"
              className="block w-full px-2 py-1 text-left hover:bg-well"
              onClick={() => setPath(folders.data || path.split("/").length > 2 ? up(path) : "")}
            >
              {t.up}
            </button>
          </li>
        )}
        {folders.data?.map((f) => (
          <li key={f.path}>
            <button
              type="button"
              className="flex w-full items-center gap-2 px-2 py-1 text-left hover:bg-well"
              onClick={() => setPath(f.path)}
            >
              <Folder className="size-4 shrink-0 text-soft" /> <span className="truncate">{f.name}</span>
            </button>
          </li>
        ))}
        {folders.data?.length === 0 && (
          <li className="px-2 py-1 text-soft">{path ? t.noFoldersInside : t.noFolderMayBeRegistered}</li>
        )}
      </ul>
      {problem && (
        <div className="mt-2">
          <ProblemNote problem={asProblem(problem)} />
        </div>
      )}
      <div className="mt-4 flex justify-end">
        <Button onClick={onClose}>{t.close}</Button>
      </div>
    </Ask>
  );
}

function up(path: string): string {
  const parts = path.replace(/\/+$/, "").split("/");
  return parts.slice(0, -1).join("/");
}
