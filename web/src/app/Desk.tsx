/** One desk: loaded when it is opened, and what goes wrong in it stays in it. */
import { Suspense, type ReactNode } from "react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { useLocation, useParams } from "react-router";
import { Shell } from "../parts/Shell";
import { Button, ProblemNote, Waiting } from "../ui/basics";
import { text } from "./strings";

const t = text.Desk;

export function Desk({ name, children }: { name: string; children: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary
      key={name}
      resetKeys={[pathname]}
      fallbackRender={(props) => <Stopped name={name} {...props} />}
      onError={(error) => console.error(error)}
    >
      <Suspense
        fallback={
          <Shell>
            <Waiting what={t.openingTheDesk(name)} />
          </Shell>
        }
      >
        {children}
      </Suspense>
    </ErrorBoundary>
  );
}

/** Plain on purpose: the bar at the top may be what stopped. */
function Stopped({ name, error, resetErrorBoundary }: FallbackProps & { name: string }) {
  const project = useParams()["project"];
  const others = [t.scene, t.elements, t.comp, t.delivery].filter((n) => n !== name);
  return (
    <main className="mx-auto max-w-xl space-y-3 p-6">
      <ProblemNote
        problem={{
          code: "page-stopped",
          message: t.theDeskStopped(name, error instanceof Error ? error.message : String(error)),
          advice: t.whatWasSavedIsKept,
          where: "",
        }}
      />
      <nav aria-label={t.desks} className="flex items-center gap-3">
        <Button onClick={resetErrorBoundary}>{t.openItAgain}</Button>
        {others.map((n) => (
          <a key={n} className="underline" href={`/projects/${project}/${n.toLowerCase()}`}>
            {n}
          </a>
        ))}
        <a className="underline" href="/">
          {t.allProjects}
        </a>
      </nav>
    </main>
  );
}
