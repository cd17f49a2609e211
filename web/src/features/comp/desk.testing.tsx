/** A comp with its store and no server, for tests of the desk's parts. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import type { ReactElement, ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { vi } from "vitest";
import type { CompOut, ElementOut } from "../../api/client";
import { addLayer, layerOf, newDocument, type CompDocument } from "../../domain/comp";
import { createDocumentStore, shownDocument, type CompCalls, type DocumentStore } from "./documentStore";

export function comp(...names: string[]) {
  let document = newDocument("Dusk", { width: 200, height: 100 }, "25", 48);
  for (const name of names) [document] = addLayer(document, "e1", name);
  const kept = { id: 1, project: 1, name: "Dusk", revision: 1, document } as unknown as CompOut;
  const write = vi.fn<CompCalls["write"]>((next, base) =>
    Promise.resolve({ ...kept, document: next as CompOut["document"], revision: base + 1 }),
  );
  const calls: CompCalls = { read: () => Promise.resolve(kept), write, step: () => Promise.resolve(kept) };
  return { store: createDocumentStore(kept, calls), write };
}

/** What is rendered sees the document as it stands, as it does under the desk. */
export function show(store: DocumentStore, part: (document: CompDocument) => ReactNode): void {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, enabled: false } } });
  function Shown(): ReactElement {
    return <>{part(store(shownDocument))}</>;
  }
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter>
        <Tooltip.Provider>
          <Shown />
        </Tooltip.Provider>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

export const layerNow = (document: CompDocument, id: string) => layerOf(document, id)!;

export const element = (facts: Record<string, unknown>, rate: string | null = "25"): ElementOut =>
  ({ key: "e1", name: "kite", rate, facts: { kind: "sequence", first: 1, last: 12, ...facts } }) as never;

/** Type into a field and leave it, as a person does. */
export async function type(label: string, text: string): Promise<void> {
  const input = screen.getByLabelText<HTMLInputElement>(label);
  fireEvent.focus(input);
  fireEvent.change(input, { target: { value: text } });
  await act(() => Promise.resolve(fireEvent.blur(input)));
}
