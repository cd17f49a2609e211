/** The comp's own column, where no layer is chosen: what it is, what is to be looked at, its named states. */
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import type { ElementOut } from "../../api/client";
import { queries } from "../../api/queries";
import { allLayers, elementOf, type CompDocument } from "../../domain/comp";
import { counted, rateInWords, ratePerSecond, trimmed } from "../../domain/words";
import { doubted, needsConfirming } from "../../domain/attention";
import { useSpaces } from "../../parts/useSpaces";
import { Button } from "../../ui/basics";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { NotesSection } from "./Notes";
import { NameState, StateButtons } from "./KeptStates";
import { workingInWords } from "./WorkingSpace";
import { text } from "./strings";

const t = text.CompColumn;

interface Props {
  store: DocumentStore;
  document: CompDocument;
  elements: ElementOut[];
  project: number;
  comp: number;
}

export function CompColumn({ store, document, elements, project, comp }: Props) {
  const frames = document.last - document.first + 1;
  const { working } = useSpaces();
  const facts: [string, ReactNode][] = [
    [t.size, `${document.width} × ${document.height}`],
    [t.rate, rateInWords(document.rate)],
    [t.frames, t.range(document.first, document.last, frames)],
    [t.lasts, t.seconds(trimmed(frames / ratePerSecond(document.rate), 2))],
    [t.workingSpace, workingInWords(document.working, working)],
    [t.layers, allLayers(document).length],
  ];
  return (
    <div className="space-y-4 p-3">
      <section className="space-y-1.5">
        <h2 className="text-[15px] font-semibold [overflow-wrap:anywhere]">{document.name}</h2>
        <dl className="grid grid-cols-[5rem_1fr] gap-y-0.5">
          {facts.map(([label, value]) => (
            <div key={label} className="contents">
              <dt className="text-soft">{label}</dt>
              <dd className="num">{value}</dd>
            </div>
          ))}
        </dl>
        <Button onClick={() => useDesk.setState({ settings: true })}>{t.change}</Button>
      </section>
      <p className="text-soft">{t.chooseACard}</p>
      <ToLookAt document={document} elements={elements} />
      <NotesSection store={store} />
      <States store={store} project={project} comp={comp} />
    </div>
  );
}

function wordsFor(element: ElementOut): string {
  const missing = element.facts?.missing.length ?? 0;
  if (missing > 0) return t.missing(counted(missing, "frame"));
  if (doubted(element)) return t.doubted;
  return needsConfirming(element) ? t.unconfirmed : "";
}

/** Layers whose element has something that a person should decide. */
function ToLookAt({ document, elements }: Pick<Props, "document" | "elements">) {
  const rows = allLayers(document).flatMap((layer) => {
    const element = elements.find((e) => e.key === elementOf(layer));
    const words = element ? wordsFor(element) : "";
    return words ? [{ layer, words }] : [];
  });
  if (rows.length === 0) return null;
  return (
    <section>
      <h3 className="mb-1 font-semibold">{t.toLookAt}</h3>
      <ul className="space-y-1">
        {rows.map(({ layer, words }) => (
          <li key={layer.id} className="flex items-baseline gap-2">
            <span aria-hidden className="size-2.5 shrink-0 self-center rounded-[2px] bg-warn" />
            <button
              type="button"
              className="min-w-0 text-left underline [overflow-wrap:anywhere]"
              onClick={() => useDesk.setState({ layer: layer.id, section: "reading" })}
            >
              {layer.name}
            </button>
            <span className="text-soft">{words}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function States({ store, project, comp }: Pick<Props, "store" | "project" | "comp">) {
  const states = useQuery(queries.states(comp, project)).data ?? [];
  return (
    <section>
      <h3 className="mb-1 font-semibold">{t.states}</h3>
      {states.length === 0 && <p className="mb-1.5 text-soft">{t.noStates}</p>}
      <ul className="mb-1.5">
        {states.map((state) => (
          <li key={state.revision} className="flex items-center gap-1">
            <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">{state.name}</span>
            <span className="num text-soft">{new Date(state.at).toLocaleDateString("en-GB")}</span>
            <StateButtons store={store} state={state} comp={comp} project={project} />
          </li>
        ))}
      </ul>
      <NameState comp={comp} project={project} />
    </section>
  );
}
