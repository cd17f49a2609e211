/** Under the picture: values at the pointer, the profile along a line, measures of a box or the frame. */
import { useQuery } from "@tanstack/react-query";
import type { ElementOut, SampleOut } from "../../api/client";
import { asProblem } from "../../api/client";
import { elementCalls } from "../../api/elements";
import type { ElementAsk } from "../../api/pictures";
import { SpreadTable } from "../../parts/SpreadTable";
import { Values } from "../../parts/Values";
import { Button, ProblemNote } from "../../ui/basics";
import { Segments } from "../../ui/Segments";
import { boxOfMark, type Mark } from "../../ui/marks";
import { HistogramPlot } from "../../parts/HistogramPlot";
import { ProfilePlot } from "../../parts/ProfilePlot";
import { useState } from "react";
import { stampOf } from "../../domain/stampOf";
import { text } from "./strings";

const t = text.Instruments;

interface Props {
  element: ElementOut;
  ask: ElementAsk;
  point: [number, number] | null;
  sample: SampleOut | null;
  mark: Mark | null;
  onMark: (mark: Mark | null) => void;
}

export function Instruments({ element, ask, point, sample, mark, onMark }: Props) {
  const [kind, setKind] = useState<"stored" | "light">("stored");
  return (
    <div className="grid h-44 shrink-0 grid-cols-[20rem_minmax(0,1fr)] border-t border-line bg-card">
      <div className="border-r border-line">
        <Values point={point} sample={sample} />
      </div>
      <div className="flex min-h-0 min-w-0 flex-col px-3 py-2">
        <div className="flex items-center gap-3">
          <h2 className="font-semibold">
            {mark?.kind === "line" ? t.alongTheLine : mark?.kind === "box" ? t.inTheBox : t.wholeFrame}
          </h2>
          <Segments
            name={t.valuesMeasured}
            small
            value={kind}
            choices={[
              { value: "stored", label: t.stored },
              mark?.kind === "line"
                ? { value: "light", label: t.straight, tip: t.surfaceColourCALinear }
                : { value: "light", label: t.light, tip: t.asReadPremultipliedOverBlack },
            ]}
            onChange={setKind}
          />
          {mark && (
            <Button kind="quiet" className="ml-auto min-h-6 py-0" onClick={() => onMark(null)}>
              {t.clearThe(mark.kind)}
            </Button>
          )}
        </div>
        {mark?.kind === "line" ? (
          <Profile element={element} ask={ask} mark={mark} kind={kind} />
        ) : (
          <Measures element={element} ask={ask} mark={mark} kind={kind} />
        )}
      </div>
    </div>
  );
}

interface Measured {
  element: ElementOut;
  ask: ElementAsk;
  mark: Mark | null;
  kind: "stored" | "light";
}

function asked(ask: ElementAsk): ElementAsk {
  return { frame: ask.frame ?? 0, reading: ask.reading ?? null, encoding: ask.encoding ?? null };
}

function Profile({ element, ask, mark, kind }: Measured) {
  const line = [...mark!.from, ...mark!.to] as [number, number, number, number];
  const body = { ...asked(ask), line };
  const got = useQuery({
    queryKey: ["profile", element.id, stampOf(element), body],
    queryFn: ({ signal }) => elementCalls.profile(element.id, body, signal),
    placeholderData: (before) => before,
  });
  if (got.error) return <ProblemNote problem={asProblem(got.error)} />;
  return got.data ? (
    <ProfilePlot rows={kind === "stored" ? got.data.stored : got.data.straight} />
  ) : (
    <p className="text-soft">{t.measuring}</p>
  );
}

function Measures({ element, ask, mark, kind }: Measured) {
  const body = { ...asked(ask), within: boxOfMark(mark) };
  const got = useQuery({
    queryKey: ["measure", element.id, stampOf(element), body],
    queryFn: ({ signal }) => elementCalls.measure(element.id, body, signal),
    placeholderData: (before) => before,
  });
  if (got.error) return <ProblemNote problem={asProblem(got.error)} />;
  if (!got.data) return <p className="text-soft">{t.measuring}</p>;
  return (
    <div className="mt-1 grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_15rem] gap-3">
      <HistogramPlot rows={got.data[kind]} />
      <SpreadTable rows={got.data[kind]} />
    </div>
  );
}
