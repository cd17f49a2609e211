/** What an element is, what its file claims, and how it is read. */
import { useMutation, useQueryClient, type UseMutationResult } from "@tanstack/react-query";
import { Trash2, Undo2 } from "lucide-react";
import { useState, type ReactNode } from "react";
import { asProblem, client, take, type ElementOut, type Facts } from "../../api/client";
import { ALPHA_USE, bytesInWords, rateInWords } from "../../domain/words";
import { needsConfirming } from "../../parts/ElementPicture";
import { ReadingEditor } from "../../parts/ReadingEditor";
import type { ReadingChange } from "../../parts/useReading";
import { Ask } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { FileName } from "../../ui/FileName";

interface Props {
  element: ElementOut;
  project: number;
  set: UseMutationResult<ElementOut[], Error, ReadingChange>;
  undo: UseMutationResult<ElementOut, Error, number>;
  picking: boolean;
  onPicking: (on: boolean) => void;
}

export function ElementFacts({ element, project, set, undo, picking, onPicking }: Props) {
  const facts = element.facts;
  const change = (part: Omit<ReadingChange, "elements">) => set.mutate({ elements: [element.id], ...part });
  const problem = set.error ?? undo.error;
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <Section title={element.name}>
        {element.problem && <ProblemNote problem={element.problem} />}
        {facts && <FactsTable facts={facts} rate={element.rate} />}
        {facts?.notes.map((note) => (
          <p key={note} className="mt-1 flex gap-1.5 text-warn">
            <span aria-hidden className="mt-1 size-2.5 shrink-0 rounded-[2px] bg-warn" />
            {note}
          </p>
        ))}
        {facts && facts.kind !== "still" && (
          <RateField key={element.rate} rate={element.rate} onRate={(rate) => change({ rate })} />
        )}
      </Section>
      {facts && (
        <Section
          title="Reading"
          action={
            element.changes > 0 && (
              <Button onClick={() => undo.mutate(element.id)} disabled={undo.isPending}>
                <Undo2 className="size-3.5" /> Take back
              </Button>
            )
          }
        >
          {needsConfirming(element) && (
            <p className="mb-2 rounded-md border border-warn px-2 py-1.5">
              The file does not say how its alpha is meant; straight is assumed. Look at its edges, then
              choose: a coloured or dark line there means that it was premultiplied.
            </p>
          )}
          <ReadingEditor
            reading={element.reading}
            encoding={element.encoding}
            hasAlpha={facts.alpha}
            onReading={(reading) => change({ reading })}
            onEncoding={(encoding) => change({ encoding })}
            picking={picking}
            onPicking={onPicking}
          />
          {needsConfirming(element) && (
            <Button className="mt-2" onClick={() => change({ reading: element.reading })}>
              Straight is right
            </Button>
          )}
          {problem && <ProblemNote problem={asProblem(problem)} />}
        </Section>
      )}
      <div className="px-3 py-2">
        <RemoveButton element={element} project={project} />
      </div>
    </div>
  );
}

function Section({ title, action, children }: { title: string; action?: ReactNode; children: ReactNode }) {
  return (
    <section className="border-b border-line px-3 py-2.5">
      <div className="mb-1.5 flex items-start justify-between gap-2">
        <h2 className="font-semibold [overflow-wrap:anywhere]">
          <FileName name={title} />
        </h2>
        {action}
      </div>
      {children}
    </section>
  );
}

export function factRows(facts: Facts, rate: string | null): [string, string][] {
  const frames = facts.kind === "still" ? "one still" : `${facts.count} (${facts.first} to ${facts.last})`;
  const rows: [string, string][] = [
    ["kind", `${facts.kind}, ${facts.format}`],
    ["size", `${facts.width} × ${facts.height}`],
    ["frames", frames],
  ];
  if (facts.kind !== "still")
    rows.push(["rate", rate ? rateInWords(rate) : "not given; each comp plays it at its own"]);
  rows.push(
    ["codec", facts.codec || "none"],
    ["samples", `${facts.pixel_format}, ${facts.bit_depth} bits`],
    ["channels", facts.channels.map((c) => (c.data ? `${c.name} (data)` : c.name)).join(", ")],
    ["alpha", ALPHA_USE[facts.alpha_use]],
    [
      "file claims",
      facts.alpha_claim
        ? `${facts.alpha_claim} (${facts.alpha_claim_by})`
        : facts.alpha
          ? "nothing"
          : "no alpha",
    ],
    ["encoding", `${facts.encoding} (${facts.encoding_by})`],
    ["on disk", bytesInWords(facts.bytes)],
  );
  if (facts.data_window) rows.splice(2, 0, ["data window", facts.data_window.join(" ")]);
  return rows;
}

function FactsTable({ facts, rate }: { facts: Facts; rate: string | null }) {
  return (
    <table className="w-full">
      <tbody>
        {factRows(facts, rate).map(([label, value]) => (
          <tr key={label} className="align-top">
            <th scope="row" className="w-24 py-px text-left font-normal text-soft">
              {label}
            </th>
            <td className="py-px [overflow-wrap:anywhere]">{value}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function RateField({ rate, onRate }: { rate: string | null; onRate: (rate: string) => void }) {
  const [text, setText] = useState(rate ?? "");
  return (
    <form
      className="mt-1.5 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() && text.trim() !== rate) onRate(text.trim());
      }}
    >
      <label htmlFor="element-rate" className="w-22 text-soft">
        rate is
      </label>
      <input
        id="element-rate"
        value={text}
        placeholder="25 or 24000/1001"
        onChange={(event) => setText(event.target.value)}
        className="num h-6 min-w-0 flex-1 rounded-md border border-line bg-card px-1.5"
      />
      <Button type="submit" disabled={!text.trim() || text.trim() === rate} className="min-h-6 py-0">
        Set
      </Button>
    </form>
  );
}

function RemoveButton({ element, project }: { element: ElementOut; project: number }) {
  const cache = useQueryClient();
  const [asking, setAsking] = useState(false);
  const remove = useMutation({
    mutationFn: () =>
      take(client.DELETE("/api/elements/{element_id}", { params: { path: { element_id: element.id } } })),
    onSuccess: async () => {
      setAsking(false);
      await cache.invalidateQueries({ queryKey: ["elements", project] });
    },
  });
  return (
    <>
      <Button kind="quiet" onClick={() => setAsking(true)}>
        <Trash2 className="size-3.5" /> Remove …
      </Button>
      <Ask title={`Remove ${element.name}?`} open={asking} onClose={() => setAsking(false)}>
        <p className="mb-3">Its files are deleted from the project. This cannot be undone.</p>
        {remove.error && <ProblemNote problem={asProblem(remove.error)} />}
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={() => setAsking(false)}>Keep it</Button>
          <Button kind="main" disabled={remove.isPending} onClick={() => remove.mutate()}>
            Remove it
          </Button>
        </div>
      </Ask>
    </>
  );
}
