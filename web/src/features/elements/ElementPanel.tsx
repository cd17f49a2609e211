/** The chosen element: what it is, how it is read, what it carries, what can be made of it. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { Download, Trash2 } from "lucide-react";
import { useState } from "react";
import { asProblem, client, take, type ElementOut } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { queries } from "../../api/queries";
import { differencesInWords } from "../../domain/words";
import { doubted, needsConfirming } from "../../domain/attention";
import { ReadingEditor } from "../../parts/ReadingEditor";
import { useSpaces } from "../../parts/useSpaces";
import { useReading, type ReadingChange } from "../../parts/useReading";
import { useUndoKeys } from "../../parts/useUndoKeys";
import { Ask } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { FactsTable, RateField } from "./FactsTable";
import { GapsField } from "./GapsField";
import { HoldsField } from "./HoldsField";
import { SplitJoinSection } from "./SplitJoinSection";
import { usePick } from "./pick";
import { TakeBack } from "./TakeBack";
import { TranscodeSection } from "./TranscodeSection";
import { ColourButton } from "./ColourButton";
import { RuleButton } from "./ReadingRules";
import { LabelField } from "./Labels";
import { RenameElement } from "./RenameElement";
import { Section } from "./Section";
import { useRefresh } from "./useRefresh";
import { text } from "./strings";

const t = text.ElementPanel;

interface Props {
  element: ElementOut;
  rows: ElementOut[];
  project: number;
  onTrial: () => void;
}

export function ElementPanel({ element, rows, project, onTrial }: Props) {
  const { spaces } = useSpaces();
  const { set, undo } = useReading(project);
  const canUndo = element.changes > 0 && !undo.isPending;
  useUndoKeys({ undo: canUndo ? () => undo.mutate(element.id) : undefined });
  const { picking, setPicking } = usePick();
  const facts = element.facts;
  const change = (part: Omit<ReadingChange, "elements">) => set.mutate({ elements: [element.id], ...part });
  const problem = set.error ?? undo.error;
  const comps = useQuery(queries.comps(project));
  const proposed = (comps.data ?? [])
    .map((c) => ({ rate: c.rate, comp: c.name }))
    .filter((c, i, all) => all.findIndex((o) => o.rate === c.rate) === i)
    .slice(0, 3);
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <Section title={element.name} action={<RenameElement element={element} project={project} />}>
        {element.problem && <ProblemNote problem={element.problem} />}
        {element.replaced && <Replaced element={element} />}
        <Namesake element={element} rows={rows} />
        <LabelField of={[element]} rows={rows} project={project} />
        {facts && <FactsTable element={element} facts={facts} />}
        {facts && facts.kind !== "still" && (
          <RateField
            key={element.rate}
            rate={element.rate}
            proposed={proposed}
            onRate={(rate) => change({ rate })}
          />
        )}
        {facts && facts.missing.length > 0 && (
          <GapsField value={element.gaps} onChange={(gaps) => change({ gaps })} />
        )}
        {facts && element.state === "ready" && <HoldsField element={element} />}
      </Section>
      {facts && !element.holds && (
        <Section title={t.reading} action={<TakeBack element={element} undo={undo} />}>
          {doubted(element) && (
            <p className="mb-2 rounded-md border border-warn px-2 py-1.5">
              {t.thePixelsSayOtherwise}
              {element.suggestion!.reason}{" "}
              <Button className="mt-1 min-h-6 py-0" onClick={onTrial}>
                {t.seeTheReadingsSideBy}
              </Button>
            </p>
          )}
          {!doubted(element) && needsConfirming(element) && (
            <p className="mb-2 rounded-md border border-warn px-2 py-1.5">
              {t.theFileDoesNotSay}{" "}
              {element.suggestion ? element.suggestion.reason : t.itsEdgesAreBeingCompared}{" "}
              <Button className="mt-1 min-h-6 py-0" onClick={onTrial}>
                {t.seeTheReadingsSideBy}
              </Button>
            </p>
          )}
          <ReadingEditor
            spaces={spaces}
            reading={element.reading}
            encoding={element.encoding}
            hasAlpha={element.has_alpha}
            onReading={(reading) => change({ reading })}
            onEncoding={(encoding) => change({ encoding })}
            picking={picking}
            onPicking={setPicking}
          />
          <div className="mt-2 flex flex-wrap gap-1.5">
            {needsConfirming(element) && (
              <Button onClick={() => change({ reading: element.reading })}>{t.straightIsRight}</Button>
            )}
            {element.has_alpha && !doubted(element) && !needsConfirming(element) && (
              <Button onClick={onTrial}>{t.compareReadings}</Button>
            )}
            {element.has_alpha && <RuleButton element={element} project={project} />}
            <ColourButton project={project} />
          </div>
          {problem && <ProblemNote problem={asProblem(problem)} />}
        </Section>
      )}
      {facts && element.state === "ready" && (
        <>
          <SplitJoinSection
            element={element}
            rows={rows}
            project={project}
            onKinds={(kinds) => change({ kinds })}
          />
          <TranscodeSection elements={[element]} project={project} />
        </>
      )}
      <div className="flex flex-wrap gap-1.5 px-3 py-2">
        {element.state === "ready" && (
          <a
            href={`/api/elements/${element.id}/files`}
            download
            className="inline-flex min-h-7 items-center gap-1.5 rounded-md px-2 hover:bg-well"
          >
            <Download className="size-3.5" />
            {t.fetch}
            {facts?.kind === "sequence" ? t.itsFrames : t.itsFile}
          </a>
        )}
        <RemoveButton element={element} project={project} />
      </div>
    </div>
  );
}

function Replaced({ element }: { element: ElementOut }) {
  const accept = useMutation({ mutationFn: () => elementCalls.accept(element.id) });
  return (
    <div className="mb-2 rounded-md border border-warn px-2 py-1.5">
      <p>{t.anotherFileLiesUnderThis}</p>
      <Button kind="main" className="mt-1.5" disabled={accept.isPending} onClick={() => accept.mutate()}>
        {t.useItEverywhere}
      </Button>
      {accept.error && <ProblemNote problem={asProblem(accept.error)} />}
    </div>
  );
}

/** A file of a name that is here already: it can take the older one's place in every use. */
function Namesake({ element, rows }: { element: ElementOut; rows: ElementOut[] }) {
  const [kept, setKept] = useState(false);
  const older = rows.find(
    (r) => r.name === element.name && r.id < element.id && r.state === "ready" && r.library === null,
  );
  const swap = useMutation({ mutationFn: () => elementCalls.takeOver(older!.id, element.id) });
  if (!older || kept || element.state !== "ready") return null;
  const differences = older.facts && element.facts ? differencesInWords(older.facts, element.facts) : [];
  return (
    <div className="mb-2 rounded-md border border-warn px-2 py-1.5">
      <p>{t.anElementOfThisName}</p>
      {differences.length > 0 && <p className="mt-1">{t.thisOneHas(differences.join("; "))}</p>}
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <Button kind="main" disabled={swap.isPending} onClick={() => swap.mutate()}>
          {t.putItInItsPlace}
        </Button>
        <Button onClick={() => setKept(true)}>{t.keepBoth}</Button>
      </div>
      {swap.error && <ProblemNote problem={asProblem(swap.error)} />}
    </div>
  );
}

function RemoveButton({ element, project }: { element: ElementOut; project: number }) {
  const again = useRefresh(project);
  const [asking, setAsking] = useState(false);
  const remove = useMutation({
    mutationFn: () =>
      take(client.DELETE("/api/elements/{element_id}", { params: { path: { element_id: element.id } } })),
    onSuccess: async () => {
      setAsking(false);
      await again();
    },
  });
  return (
    <>
      <Button kind="quiet" onClick={() => setAsking(true)}>
        <Trash2 className="size-3.5" />
        {t.remove}
      </Button>
      <Ask title={t.remove2(element.name)} open={asking} onClose={() => setAsking(false)}>
        <p className="mb-3">{element.library === null ? t.itsFilesAreDeletedFrom : t.itGoesFromTheList}</p>
        {remove.error && <ProblemNote problem={asProblem(remove.error)} />}
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={() => setAsking(false)}>{t.keepIt}</Button>
          <Button kind="main" disabled={remove.isPending} onClick={() => remove.mutate()}>
            {t.removeIt}
          </Button>
        </div>
      </Ask>
    </>
  );
}
