/** One desk: loaded when it is opened, and what goes wrong in it stays in it. */
import { Suspense, type ReactNode } from "react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { useLocation, useParams } from "react-router";
import { Shell } from "../parts/Shell";
import { Button, ProblemNote, Waiting } from "../ui/basics";

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
            <Waiting what={`Opening the ${name} desk`} />
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
  const others = ["Scene", "Elements", "Comp", "Delivery"].filter((n) => n !== name);
  return (
    <main className="mx-auto max-w-xl space-y-3 p-6">
      <ProblemNote
        problem={{
          code: "page-stopped",
          message: `The ${name} desk stopped: ${error instanceof Error ? error.message : String(error)}`,
          advice: "What was saved is kept. Open the desk again; the other desks work as before.",
          where: "",
        }}
      />
      <nav aria-label="Desks" className="flex items-center gap-3">
        <Button onClick={resetErrorBoundary}>Open it again</Button>
        {others.map((n) => (
          <a key={n} className="underline" href={`/projects/${project}/${n.toLowerCase()}`}>
            {n}
          </a>
        ))}
        <a className="underline" href="/">
          All projects
        </a>
      </nav>
    </main>
  );
}
