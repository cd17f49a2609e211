/** Addresses, and the sign-in in front of them. */
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { lazy } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { ApiProblem, asProblem } from "../api/client";
import { queries } from "../api/queries";
import { Projects } from "../features/projects/Projects";
import { SignIn } from "../features/signin/SignIn";
import { Button, ProblemNote, Waiting } from "../ui/basics";
import { Desk } from "./Desk";
import { text } from "./strings";

const t = text.App;

const SceneDesk = lazy(async () => ({ default: (await import("../features/scene/SceneDesk")).SceneDesk }));
const ElementsDesk = lazy(async () => ({
  default: (await import("../features/elements/ElementsDesk")).ElementsDesk,
}));
const CompDesk = lazy(async () => ({ default: (await import("../features/comp/CompDesk")).CompDesk }));
const DeliveryDesk = lazy(async () => ({
  default: (await import("../features/delivery/DeliveryDesk")).DeliveryDesk,
}));
const ProofPage = lazy(async () => ({ default: (await import("../features/delivery/ProofPage")).ProofPage }));

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
  if (session.isPending) return <Waiting what={t.opening} />;
  if (session.error) {
    return (
      <div className="p-6">
        <ProblemNote problem={asProblem(session.error)}>
          <Button onClick={() => void session.refetch()}>{t.tryAgain}</Button>
        </ProblemNote>
      </div>
    );
  }
  if (!session.data.person) return <SignIn />;
  return (
    <Routes>
      <Route path="/" element={<Projects />} />
      <Route
        path="/projects/:project/scene/:scene?"
        element={
          <Desk name={t.scene}>
            <SceneDesk />
          </Desk>
        }
      />
      <Route
        path="/projects/:project/elements"
        element={
          <Desk name={t.elements}>
            <ElementsDesk />
          </Desk>
        }
      />
      <Route
        path="/projects/:project/comp/:comp?"
        element={
          <Desk name={t.comp}>
            <CompDesk />
          </Desk>
        }
      />
      <Route
        path="/projects/:project/delivery"
        element={
          <Desk name={t.delivery}>
            <DeliveryDesk />
          </Desk>
        }
      />
      <Route
        path="/projects/:project/delivery/:delivery/proof"
        element={
          <Desk name={t.delivery}>
            <ProofPage />
          </Desk>
        }
      />
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
