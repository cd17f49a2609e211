/** The frame around every desk: top bar, files on their way in, the drop of files anywhere. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { LogOut, Moon, Sun } from "lucide-react";
import { useState, type DragEvent, type ReactNode } from "react";
import { Link, NavLink, useParams } from "react-router";
import { filesOfDrop } from "../api/importFiles";
import { client, take } from "../api/client";
import { useChanges } from "../api/events";
import { queries } from "../api/queries";
import { bytesInWords } from "../domain/words";
import { Button, ProblemNote, ProgressBar, SignButton } from "../ui/basics";
import { useImporting } from "./importing";
import { useScheme } from "./scheme";

export function Mark() {
  return (
    <svg viewBox="0 0 24 24" aria-hidden className="size-5">
      <rect
        x="8"
        y="3"
        width="13"
        height="15"
        rx="3"
        fill="var(--accent-soft)"
        stroke="var(--accent)"
        strokeWidth="1.5"
      />
      <rect x="3" y="6" width="13" height="15" rx="3" fill="var(--accent)" />
    </svg>
  );
}

export function TopBar({ children, desks }: { children?: ReactNode; desks?: ReactNode }) {
  const cache = useQueryClient();
  const session = useQuery(queries.session());
  const { scheme, toggle } = useScheme();
  const leave = useMutation({
    mutationFn: () => take(client.DELETE("/api/session")),
    onSuccess: () => {
      cache.clear();
      window.location.assign("/");
    },
  });
  return (
    <header className="flex h-11 shrink-0 items-center gap-3 border-b border-line bg-card px-3">
      <Link to="/" className="flex shrink-0 items-center gap-2 font-semibold">
        <Mark /> Neat Veil
      </Link>
      <div className="flex min-w-0 flex-1 items-center gap-1.5 text-soft">{children}</div>
      {desks}
      <SignButton name={scheme === "light" ? "Dark scheme" : "Light scheme"} onClick={toggle}>
        {scheme === "light" ? <Moon className="size-4" /> : <Sun className="size-4" />}
      </SignButton>
      {session.data?.person && (
        <SignButton name={`Sign out ${session.data.person.name}`} onClick={() => leave.mutate()}>
          <LogOut className="size-4" />
        </SignButton>
      )}
    </header>
  );
}

function Desk({ to, label }: { to: string; label: string }) {
  return (
    <NavLink
      to={to}
      className={({ isActive }) =>
        `flex h-11 items-center border-b-2 px-3 font-medium ${isActive ? "border-accent text-ink" : "border-transparent text-soft hover:text-ink"}`
      }
    >
      {label}
    </NavLink>
  );
}

/** A project's desks. `title` stands behind the project's name. */
export function Shell({ children, title }: { children: ReactNode; title?: ReactNode }) {
  const project = Number(useParams()["project"]);
  const info = useQuery(queries.project(project));
  const bring = useImporting((s) => s.bring);
  const [over, setOver] = useState(false);
  useChanges(project);

  function carriesFiles(event: DragEvent) {
    return event.dataTransfer.types.includes("Files");
  }

  return (
    <div
      className="flex h-full flex-col"
      onDragOver={(event) => {
        if (!carriesFiles(event)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => {
        if (!carriesFiles(event)) return;
        event.preventDefault();
        setOver(false);
        void filesOfDrop(event.dataTransfer).then((files) => bring(project, files));
      }}
    >
      <TopBar
        desks={
          <nav aria-label="Desks" className="flex">
            <Desk to={`/projects/${project}/scene`} label="Scene" />
            <Desk to={`/projects/${project}/elements`} label="Elements" />
            <Desk to={`/projects/${project}/comp`} label="Comp" />
            <Desk to={`/projects/${project}/delivery`} label="Delivery" />
          </nav>
        }
      >
        <span className="truncate">{info.data?.name}</span>
        {title}
      </TopBar>
      <OnTheWay />
      {over && (
        <div className="border-b border-accent bg-accent-soft px-3 py-1.5 font-medium text-accent">
          Let go to import the files into {info.data?.name ?? "the project"}.
        </div>
      )}
      <div className="min-h-0 flex-1">{info.error ? <Gone /> : children}</div>
    </div>
  );
}

function Gone() {
  return (
    <div className="p-6">
      <ProblemNote
        problem={{
          code: "not-there",
          message: "This project is not there.",
          advice: "Check the address, or ask to be added to it.",
          where: "",
        }}
      >
        <Link to="/" className="underline">
          All projects
        </Link>
      </ProblemNote>
    </div>
  );
}

function OnTheWay() {
  const { state, problem, cancel, dismiss } = useImporting();
  if (problem) {
    return (
      <div className="border-b border-line p-2">
        <ProblemNote problem={problem}>
          <Button onClick={dismiss}>Close</Button>
        </ProblemNote>
      </div>
    );
  }
  if (!state) return null;
  return (
    <div role="status" className="flex items-center gap-3 border-b border-line bg-card px-3 py-1.5">
      <span className="num shrink-0">
        Importing {state.filesDone} of {state.files} files, {bytesInWords(state.bytesDone)} of{" "}
        {bytesInWords(state.bytes)}
        {state.waiting && <span className="text-warn"> · the line dropped, trying again …</span>}
      </span>
      <ProgressBar done={state.bytesDone} total={state.bytes} name="Files on their way in" />
      <Button onClick={() => cancel?.()}>Cancel</Button>
    </div>
  );
}
