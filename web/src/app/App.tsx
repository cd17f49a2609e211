/** Addresses, and the sign-in in front of them. */
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { ApiProblem, asProblem } from "../api/client";
import { queries } from "../api/queries";
import { CompDesk } from "../features/comp/CompDesk";
import { DeliveryDesk } from "../features/delivery/DeliveryDesk";
import { ElementsDesk } from "../features/elements/ElementsDesk";
import { Projects } from "../features/projects/Projects";
import { SceneDesk } from "../features/scene/SceneDesk";
import { SignIn } from "../features/signin/SignIn";
import { Button, ProblemNote, Waiting } from "../ui/basics";

const cache = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) =>
        count < 3 && (!(error instanceof ApiProblem) || error.status === 0 || error.status === 503),
    },
  },
});

function Inside() {
  const session = useQuery(queries.session());
  if (session.isPending) return <Waiting what="Opening" />;
  if (session.error) {
    return (
      <div className="p-6">
        <ProblemNote problem={asProblem(session.error)}>
          <Button onClick={() => void session.refetch()}>Try again</Button>
        </ProblemNote>
      </div>
    );
  }
  if (!session.data.person) return <SignIn />;
  return (
    <Routes>
      <Route path="/" element={<Projects />} />
      <Route path="/projects/:project/scene/:scene?" element={<SceneDesk />} />
      <Route path="/projects/:project/elements" element={<ElementsDesk />} />
      <Route path="/projects/:project/comp/:comp?" element={<CompDesk />} />
      <Route path="/projects/:project/delivery" element={<DeliveryDesk />} />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}

export function App() {
  return (
    <QueryClientProvider client={cache}>
      <Tooltip.Provider>
        <BrowserRouter>
          <Inside />
        </BrowserRouter>
      </Tooltip.Provider>
    </QueryClientProvider>
  );
}
