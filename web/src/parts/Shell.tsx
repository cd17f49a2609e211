/** The frame around every desk: top bar, files on their way in, the drop of files anywhere. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { LogOut, Moon, Sun } from "lucide-react";
import { useEffect, useState, type DragEvent, type ReactNode } from "react";
import { Link, NavLink, useParams } from "react-router";
import { filesOfDrop } from "../api/importFiles";
import { client, take } from "../api/client";
import { useChanges } from "../api/events";
import { queries } from "../api/queries";
import { bytesInWords } from "../domain/words";
import { Button, ProblemNote, ProgressBar, SignButton } from "../ui/basics";
import { useImporting } from "./importing";
import { useScheme } from "./scheme";
import { useToldOfDeliveries } from "./telling";
import { text } from "./strings";

const t = text.Shell;

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
        <Mark />
        {t.neatVeil}
      </Link>
      <div className="flex min-w-0 flex-1 items-center gap-1.5 text-soft">{children}</div>
      {desks}
      <SignButton name={scheme === "light" ? t.darkScheme : t.lightScheme} onClick={toggle}>
        {scheme === "light" ? <Moon className="size-4" /> : <Sun className="size-4" />}
      </SignButton>
      {session.data?.person && (
        <SignButton name={t.signOut(session.data.person.name)} onClick={() => leave.mutate()}>
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
  useToldOfDeliveries(project);

  function carriesFiles(event: DragEvent) {
    return event.dataTransfer.types.includes("Files");
  }

  return (
    <div
      className="relative flex h-full flex-col"
      onDragOver={(event) => {
        if (!carriesFiles(event)) return;
        // a control under the pointer takes them itself
        if (event.isDefaultPrevented()) {
          setOver(false);
          return;
        }
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => {
        if (!carriesFiles(event)) return;
        setOver(false);
        if (event.isDefaultPrevented()) return;
        event.preventDefault();
        void filesOfDrop(event.dataTransfer).then((files) => bring(project, files));
      }}
    >
      <TopBar
        desks={
          <nav aria-label={t.desks} className="flex">
            <Desk to={`/projects/${project}/scene`} label={t.scene} />
            <Desk to={`/projects/${project}/elements`} label={t.elements} />
            <Desk to={`/projects/${project}/comp`} label={t.comp} />
            <Desk to={`/projects/${project}/delivery`} label={t.delivery} />
          </nav>
        }
      >
        <span className="truncate">{info.data?.name}</span>
        {title}
      </TopBar>
      <OnTheWay />
      {over && (
        <div className="pointer-events-none absolute inset-x-0 top-0 z-50 border-b border-accent bg-accent-soft px-3 py-3 font-medium text-accent">
          {t.letGoToImportThe}
          {info.data?.name ?? t.theProject}.
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
          message: t.thisProjectIsNotThere,
          advice: t.checkTheAddressOrAsk,
          where: "",
        }}
      >
        <Link to="/" className="underline">
          {t.allProjects}
        </Link>
      </ProblemNote>
    </div>
  );
}

/** Milliseconds of an import before it is told of. */
const A_MOMENT = 400;

function OnTheWay() {
  const { state, problem, cancel, dismiss } = useImporting();
  // what is over in a moment is not told of: the desk below would move for it
  const [lasts, setLasts] = useState(false);
  const working = state !== null;
  useEffect(() => {
    if (!working) return;
    const timer = setTimeout(() => setLasts(true), A_MOMENT);
    return () => {
      clearTimeout(timer);
      setLasts(false);
    };
  }, [working]);
  if (problem) {
    return (
      <div className="border-b border-line p-2">
        <ProblemNote problem={problem}>
          <Button onClick={dismiss}>{t.close}</Button>
        </ProblemNote>
      </div>
    );
  }
  if (!state || !lasts) return null;
  return (
    <div role="status" className="flex items-center gap-3 border-b border-line bg-card px-3 py-1.5">
      <span className="num shrink-0">
        {t.importing(state.filesDone, state.files, bytesInWords(state.bytesDone), bytesInWords(state.bytes))}
        {state.waiting && <span className="text-warn">{t.theLineDroppedTryingAgain}</span>}
      </span>
      <ProgressBar done={state.bytesDone} total={state.bytes} name={t.filesOnTheirWayIn} />
      <Button onClick={() => cancel?.()}>{t.cancel}</Button>
    </div>
  );
}
