/** Under the recipe: values at the pointer, the profile of an edge, histogram and waveform of what is shown. */
import { useQuery } from "@tanstack/react-query";
import { Minus, MousePointer2, Square } from "lucide-react";
import type { ReactNode } from "react";
import { asProblem } from "../../api/client";
import { compCalls } from "../../api/comps";
import type { CompAsk } from "../../api/pictures";
import { HistogramPlot } from "../../parts/HistogramPlot";
import { ProfilePlot } from "../../parts/ProfilePlot";
import { SpreadTable } from "../../parts/SpreadTable";
import { Values } from "../../parts/Values";
import { WaveformPlot } from "../../parts/WaveformPlot";
import { ProblemNote, SignButton } from "../../ui/basics";
import { boxOfMark, lineOfMark, type Mark } from "../../ui/marks";
import { Segments } from "../../ui/Segments";
import { useDeskFields, type Instrument } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { MatteInstrument } from "./mattes/MatteInstrument";
import { usePoint } from "./pointState";
import { text } from "./strings";

const t = text.Instruments;

const CHOICES: { value: Instrument; label: string; tip: string }[] = [
  { value: "values", label: t.values, tip: t.theNumbersUnderThePointer },
  { value: "edge", label: t.edge, tip: t.alongALineThatIs },
  { value: "histogram", label: t.histogram, tip: t.ofABoxThatIs },
  { value: "waveform", label: t.wave, tip: t.codesByPlaceAcrossThe },
  {
    value: "matte",
    label: t.kept,
    tip: t.howMuchAMatteKeeps,
  },
];

export function Instruments({ comp, store }: { comp: number; store: DocumentStore }) {
  const { instrument, drawing, mark, set } = useDeskFields("instrument", "drawing", "mark", "set");
  const ask = usePoint((p) => p.ask);
  const tool = (kind: Mark["kind"] | null, name: string, sign: ReactNode) => (
    <SignButton
      name={name}
      aria-pressed={drawing === kind}
      className={`!min-h-6 !min-w-6 !px-0.5 ${drawing === kind ? "bg-accent-soft text-accent" : ""}`}
      onClick={() =>
        set({
          drawing: kind,
          ...(kind === "line" ? { instrument: "edge" } : {}),
          ...(kind === "box" && instrument !== "waveform" ? { instrument: "histogram" } : {}),
        })
      }
    >
      {sign}
    </SignButton>
  );
  return (
    <section aria-label={t.instruments} className="border-t border-line bg-card">
      <div className="flex items-center gap-0.5 pt-1.5 pr-0.5 pl-1">
        <Segments
          name={t.instrument}
          small
          value={instrument}
          choices={CHOICES}
          onChange={(next) => set({ instrument: next })}
        />
        <span className="ml-auto flex">
          {tool(null, t.pan, <MousePointer2 className="size-3.5" />)}
          {tool("line", t.drawALineTheEdges, <Minus className="size-3.5 -rotate-45" />)}
          {tool("box", t.drawABoxMeanStandard, <Square className="size-3.5" />)}
        </span>
      </div>
      {instrument === "values" ? (
        <PointedValues />
      ) : (
        <div className="flex h-50 flex-col px-2 pt-1 pb-2">
          {!ask ? (
            <p className="text-soft">{t.measuredWhenThePictureRests}</p>
          ) : instrument === "matte" ? (
            <MatteInstrument store={store} comp={comp} />
          ) : instrument === "edge" ? (
            <Edge comp={comp} ask={ask} mark={mark} />
          ) : (
            <Measured comp={comp} ask={ask} mark={mark} wave={instrument === "waveform"} />
          )}
        </div>
      )}
    </section>
  );
}

function PointedValues() {
  const { point, sample } = usePoint();
  return <Values point={point} sample={sample} />;
}

interface Props {
  comp: number;
  ask: CompAsk;
  mark: Mark | null;
}

/** What is measured does not depend on how it is shown. */
const measuredAsk = (ask: CompAsk): CompAsk => ({ ...ask, region: null, quality: "exact" });

function Edge({ comp, ask, mark }: Props) {
  const line = lineOfMark(mark);
  const body = measuredAsk(ask);
  const got = useQuery({
    queryKey: ["comp-profile", comp, body, line],
    queryFn: ({ signal }) => compCalls.profile(comp, body, line!, signal),
    enabled: line !== null,
    placeholderData: (before) => before,
  });
  if (!line) return <p className="text-soft">{t.takeTheLineAboveAnd}</p>;
  if (got.error) return <ProblemNote problem={asProblem(got.error)} />;
  return got.data ? (
    <ProfilePlot rows={got.data.straight} narrow />
  ) : (
    <p className="text-soft">{t.measuring}</p>
  );
}

function Measured({ comp, ask, mark, wave }: Props & { wave: boolean }) {
  const within = boxOfMark(mark);
  const body = measuredAsk(ask);
  const got = useQuery({
    queryKey: ["comp-measure", comp, body, within],
    queryFn: ({ signal }) => compCalls.measure(comp, body, within, signal),
    placeholderData: (before) => before,
  });
  if (got.error) return <ProblemNote problem={asProblem(got.error)} />;
  if (!got.data) return <p className="text-soft">{t.measuring}</p>;
  if (wave) return <WaveformPlot rows={got.data.waveform} />;
  return (
    <>
      <div className="min-h-0 flex-1">
        <HistogramPlot rows={got.data.codes} />
      </div>
      <SpreadTable rows={got.data.light} />
    </>
  );
}
