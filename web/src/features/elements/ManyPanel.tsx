/** Several elements at once: one reading, one encoding, one rewriting for all of them. */
import { asProblem, type ElementOut } from "../../api/client";
import { ReadingEditor } from "../../parts/ReadingEditor";
import { useSpaces } from "../../parts/useSpaces";
import { useReading } from "../../parts/useReading";
import { Button, ProblemNote } from "../../ui/basics";
import { LabelField } from "./Labels";
import { RemoveMany } from "./RemoveMany";
import { Section } from "./Section";
import { RateField } from "./FactsTable";
import { TranscodeSection } from "./TranscodeSection";
import { text } from "./strings";

const t = text.ManyPanel;

interface Props {
  rows: ElementOut[];
  all: ElementOut[];
  project: number;
  onDone: () => void;
}

export function ManyPanel({ rows, all, project, onDone }: Props) {
  const { spaces } = useSpaces();
  const { set } = useReading(project);
  const ids = rows.map((r) => r.id);
  const first = rows[0]!;
  const words = [...new Set(rows.map((r) => r.reading_words))];
  const rates = [...new Set(rows.map((r) => r.rate))];
  const moving = rows.filter((r) => r.facts && r.facts.kind !== "still");
  const suggested = rows.filter((r) => r.suggestion?.reading);
  const takeSuggestions = () => {
    for (const row of suggested)
      set.mutate({ elements: [row.id], reading: row.suggestion!.reading as never });
  };
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <Section title={t.elements(rows.length)} action={<Button onClick={onDone}>{t.done}</Button>}>
        <ul className="text-soft">
          {rows.slice(0, 8).map((r) => (
            <li key={r.id} className="truncate" title={r.name}>
              {r.name}: {r.has_alpha ? r.reading_words : t.noAlpha}
            </li>
          ))}
          {rows.length > 8 && <li>{t.andMore(rows.length - 8)}</li>}
        </ul>
        <LabelField of={rows} rows={all} project={project} />
      </Section>
      <Section title={t.readingOfAllOfThem}>
        {words.length > 1 && <p className="mb-1.5 text-warn">{t.theyAreReadDifferentlyNow}</p>}
        <ReadingEditor
          spaces={spaces}
          reading={first.reading}
          encoding={first.encoding}
          hasAlpha={rows.some((r) => r.has_alpha)}
          onReading={(reading) => set.mutate({ elements: ids, reading })}
          onEncoding={(encoding) => set.mutate({ elements: ids, encoding })}
          picking={false}
          onPicking={() => undefined}
        />
        {suggested.length > 0 && (
          <Button className="mt-2" onClick={takeSuggestions}>
            {t.readEachAsItsPixels(suggested.length)}
          </Button>
        )}
        {moving.length > 0 && (
          <RateField
            key={String(rates[0])}
            rate={rates.length === 1 ? (rates[0] ?? null) : null}
            onRate={(rate) => set.mutate({ elements: moving.map((r) => r.id), rate })}
          />
        )}
        {set.error && <ProblemNote problem={asProblem(set.error)} />}
      </Section>
      <div className="px-3 pb-3">
        <RemoveMany rows={rows} project={project} onRemoved={onDone} />
      </div>
      <TranscodeSection elements={rows.filter((r) => r.state === "ready")} project={project} />
    </div>
  );
}
