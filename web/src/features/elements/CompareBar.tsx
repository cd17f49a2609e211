/** What an element is compared with and how, and what lies behind it. */
import type { ElementOut } from "../../api/client";
import type { Reading } from "../../domain/comp";
import { readingInWords } from "../../domain/words";
import { Choose, type Option } from "../../ui/Choose";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import { text } from "./strings";

const t = text.CompareBar;

interface Other {
  element: number;
  reading: Reading | null;
  encoding: string | null;
}

export interface Comparison {
  how: "off" | "wipe" | "difference";
  other: Other | null;
  words: string;
  at: number;
  gain: number;
  under: number | null;
}

export const FIRST_COMPARISON: Comparison = {
  how: "off",
  other: null,
  words: "",
  at: 0.5,
  gain: 8,
  under: null,
};

interface Props {
  element: ElementOut;
  rows: ElementOut[];
  value: Comparison;
  onChange: (value: Comparison) => void;
}

interface Against {
  option: Option;
  other: Other;
}

/** Other readings of the element first, then other elements. */
function choices(element: ElementOut, rows: ElementOut[]): Against[] {
  const usual = (["straight", "premultiplied", "none"] as const).map((alpha): Reading => ({
    alpha,
    matte: [0, 0, 0],
    inverted: false,
    multiplied: "linear",
  }));
  const tried = (element.suggestion?.candidates ?? []).map((c) => c.reading);
  const found = new Map<string, Against>();
  for (const reading of [...tried, ...usual]) {
    const words = readingInWords(reading);
    if (words === element.reading_words || found.has(words)) continue;
    const other = { element: element.id, reading, encoding: element.encoding };
    found.set(words, { option: { value: `r:${words}`, label: words, group: t.anotherReading }, other });
  }
  const elements = rows
    .filter((r) => r.id !== element.id && r.state === "ready")
    .map((r) => ({
      option: { value: `e:${r.id}`, label: r.name, group: t.anotherElement },
      other: { element: r.id, reading: null, encoding: null },
    }));
  return [...(element.has_alpha ? found.values() : []), ...elements];
}

export function CompareBar({ element, rows, value, onChange }: Props) {
  const all = choices(element, rows);
  const current = all.find((c) => c.option.label === value.words) ?? all[0];
  const behind = rows.filter((r) => r.id !== element.id && r.state === "ready");
  const start = (how: Comparison["how"]) =>
    onChange({ ...value, how, other: current?.other ?? null, words: current?.option.label ?? "" });
  return (
    <>
      {element.has_alpha && behind.length > 0 && (
        <span className="flex items-center gap-1.5">
          <span className="text-soft">{t.on}</span>
          <span className="flex w-32">
            <Choose
              name={t.behindIt}
              value={String(value.under ?? "nothing")}
              options={[
                { value: "nothing", label: t.theBackground },
                ...behind.map((r) => ({ value: String(r.id), label: r.name, group: t.anElement })),
              ]}
              onChange={(v) => onChange({ ...value, under: v === "nothing" ? null : Number(v) })}
            />
          </span>
        </span>
      )}
      {all.length > 0 && (
        <span className="flex flex-wrap items-center gap-1.5">
          <Segments
            name={t.compare}
            value={value.how}
            choices={[
              { value: "off", label: t.alone },
              { value: "wipe", label: t.wipe, tip: t.anotherLookBesideItParted },
              { value: "difference", label: t.difference, tip: t.howFarTwoLooksLie },
            ]}
            onChange={start}
          />
          {value.how !== "off" && current && (
            <>
              <span className="text-soft">{t.withWord}</span>
              <span className="flex w-44">
                <Choose
                  name={t.comparedWith}
                  value={current.option.value}
                  options={all.map((c) => c.option)}
                  onChange={(v) => {
                    const next = all.find((c) => c.option.value === v);
                    if (next) onChange({ ...value, other: next.other, words: next.option.label });
                  }}
                />
              </span>
            </>
          )}
          {value.how === "difference" && (
            <NumberField
              name={t.times}
              value={value.gain}
              min={1}
              max={255}
              step={1}
              digits={0}
              onDraft={(gain) => onChange({ ...value, gain })}
              onCommit={(gain) => onChange({ ...value, gain })}
            />
          )}
        </span>
      )}
    </>
  );
}
