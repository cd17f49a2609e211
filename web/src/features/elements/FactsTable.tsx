/** What a file is: at a glance, and in full. */
import { useState } from "react";
import type { ElementOut, Facts } from "../../api/client";
import { encodingInWords } from "../../domain/encoding";
import { ALPHA_USE, bytesInWords, rateInWords } from "../../domain/words";
import { Button } from "../../ui/basics";
import { rangeInWords } from "./channels";
import { text } from "./strings";

const t = text.FactsTable;

type Row = [string, string];

/** The few facts that are looked for most. */
export function glanceRows(facts: Facts, rate: string | null, joined = false): Row[] {
  const frames = facts.kind === "still" ? t.oneStill : t.to(facts.count, facts.first, facts.last);
  const rows: Row[] = [
    ["kind", `${facts.kind}, ${facts.format}${facts.codec ? `, ${facts.codec}` : ""}`],
    ["size", `${facts.width} × ${facts.height}`],
    ["frames", frames],
  ];
  if (facts.kind !== "still") rows.push(["rate", rate ? rateInWords(rate) : t.notGivenSayWhichBelow]);
  rows.push(
    ["samples", t.bits(facts.pixel_format, facts.bit_depth)],
    ["alpha", joined ? t.joinedFromAnotherElement : ALPHA_USE[facts.alpha_use]],
    [
      t.fileClaims,
      facts.alpha_claim
        ? `${facts.alpha_claim} (${facts.alpha_claim_by})`
        : facts.alpha
          ? "nothing"
          : joined
            ? t.nothingTheAlphaIsAnother
            : "no alpha",
    ],
  );
  return rows;
}

function fullRows(element: ElementOut, facts: Facts): Row[] {
  const rows: Row[] = [
    ["encoding", `${encodingInWords(facts.encoding)} (${facts.encoding_by})`],
    ["on disk", bytesInWords(facts.bytes)],
  ];
  if (element.folder) rows.push(["folder", element.folder]);
  if (facts.data_window) rows.push([t.dataWindow, facts.data_window.join(" ")]);
  const odd = Object.keys(facts.odd_sizes);
  if (odd.length > 0)
    rows.push([t.otherSizes, t.frames(odd.slice(0, 12).join(", "), odd.length > 12 ? " …" : "")]);
  return rows;
}

function Rows({ rows }: { rows: Row[] }) {
  return (
    <table className="w-full">
      <tbody>
        {rows.map(([label, value]) => (
          <tr key={label} className="align-top">
            <th scope="row" className="w-22 py-px text-left font-normal text-soft">
              {label}
            </th>
            <td className="py-px [overflow-wrap:anywhere]">{value}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

export function FactsTable({ element, facts }: { element: ElementOut; facts: Facts }) {
  const [full, setFull] = useState(false);
  return (
    <>
      <Rows
        rows={glanceRows(
          facts,
          element.rate,
          element.parts.some((p) => p.name === "A"),
        )}
      />
      {facts.notes.map((note) => (
        <p key={note} className="mt-1 flex gap-1.5 text-warn">
          <span aria-hidden className="mt-1 size-2.5 shrink-0 rounded-[2px] bg-warn" />
          <span className="min-w-0 [overflow-wrap:anywhere]">{note}</span>
        </p>
      ))}
      {full && (
        <>
          <Rows rows={fullRows(element, facts)} />
          <Channels facts={facts} />
          {facts.limits.map((limit) => (
            <p key={limit} className="mt-1 text-soft">
              {limit}
            </p>
          ))}
        </>
      )}
      <Button
        kind="quiet"
        aria-expanded={full}
        className="-ml-2 min-h-6 py-0 text-accent"
        onClick={() => setFull(!full)}
      >
        {full ? t.fewerFacts : t.allFacts}
      </Button>
    </>
  );
}

function Channels({ facts }: { facts: Facts }) {
  return (
    <table aria-label={t.channels} className="mt-1 w-full">
      <tbody>
        {facts.channels.map((c) => (
          <tr key={c.name} className="align-top">
            <th scope="row" className="py-px pr-2 text-left font-normal [overflow-wrap:anywhere]">
              {c.name}
            </th>
            <td className="py-px pr-2 text-soft">
              {c.sample}
              {c.data ? t.data : ""}
            </td>
            <td className="num py-px text-right">{rangeInWords(c.low, c.high)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface RateProps {
  rate: string | null;
  onRate: (rate: string) => void;
  /** Rates of the project's comps, proposed where the files give none. */
  proposed?: { rate: string; comp: string }[];
}

export function RateField({ rate, onRate, proposed = [] }: RateProps) {
  const [text, setText] = useState(rate ?? "");
  return (
    <>
      {!rate && (
        <div className="mt-1.5 rounded-md border border-warn px-2 py-1.5">
          <p>{t.itsFilesGiveNoRate}</p>
          <div className="mt-1 flex flex-wrap gap-1.5">
            {proposed.map((p) => (
              <Button key={p.rate} className="min-h-6 py-0" onClick={() => onRate(p.rate)}>
                {t.as(rateInWords(p.rate), p.comp)}
              </Button>
            ))}
          </div>
        </div>
      )}
      <RateForm rate={rate} text={text} setText={setText} onRate={onRate} />
    </>
  );
}

interface RateFormProps {
  rate: string | null;
  text: string;
  setText: (text: string) => void;
  onRate: (rate: string) => void;
}

function RateForm({ rate, text, setText, onRate }: RateFormProps) {
  return (
    <form
      className="mt-1.5 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() && text.trim() !== rate) onRate(text.trim());
      }}
    >
      <label htmlFor="element-rate" className="w-20 text-soft">
        {t.rateIs}
      </label>
      <input
        id="element-rate"
        value={text}
        placeholder={t.rateExamples}
        onChange={(event) => setText(event.target.value)}
        className="num h-6 min-w-0 flex-1 rounded-md border border-line bg-card px-1.5"
      />
      <Button type="submit" disabled={!text.trim() || text.trim() === rate} className="min-h-6 py-0">
        {t.set}
      </Button>
    </form>
  );
}
