/** Every plausible reading side by side on the places where they differ most, over several backgrounds. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls, trialSheet, type TrialOut } from "../../api/elements";
import type { Reading } from "../../domain/comp";
import { counted, hexOf, readingInWords } from "../../domain/words";
import { useReading } from "../../parts/useReading";
import { Button, Empty, ProblemNote, Waiting } from "../../ui/basics";
import { Segments } from "../../ui/Segments";
import { text } from "./strings";
import { TakeBack } from "./TakeBack";

const t = text.CompareReadings;

export function CompareReadings({ element, project }: { element: ElementOut; project: number }) {
  const trial = useQuery({
    queryKey: ["trial", element.id, element.encoding, element.parts, element.facts?.bytes],
    queryFn: () => elementCalls.trial(element.id),
    enabled: element.state === "ready" && element.has_alpha,
  });
  if (!element.has_alpha)
    return <Empty title={t.noAlphaToBeRead}>{t.isOpaqueEverywhereJoinAn(element.name)}</Empty>;
  if (trial.error)
    return (
      <div className="p-4">
        <ProblemNote problem={asProblem(trial.error)} />
      </div>
    );
  if (!trial.data) return <Waiting what={t.comparingTheEdgePixels} />;
  return <Court key={element.id} element={element} project={project} trial={trial.data} />;
}

type Zoom = "1" | "2" | "3" | "4";

const VERDICT: Record<TrialOut["suggestion"]["verdict"], string> = {
  straight: t.thePixelsSayStraight,
  premultiplied: t.thePixelsSayPremultiplied,
  "cannot-tell": t.thePixelsCannotTell,
};

function Court({ element, project, trial }: { element: ElementOut; project: number; trial: TrialOut }) {
  const [place, setPlace] = useState(0);
  const [zoom, setZoom] = useState<Zoom>(window.innerWidth > 1600 ? "3" : "2");
  const { set, undo } = useReading(project);
  const problem = set.error ?? undo.error;
  const { suggestion, readings } = trial;
  const take = (reading: Reading) => set.mutate({ elements: [element.id], reading });

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLElement && /INPUT|TEXTAREA/.test(event.target.tagName)) return;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const chosen = readings[Number(event.key) - 1];
      if (chosen) {
        event.preventDefault();
        set.mutate({ elements: [element.id], reading: chosen });
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [readings, set, element.id]);

  const spot = trial.places[place];
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="border-b border-line bg-card px-3 py-2">
        <p>
          <span className="font-semibold">
            {VERDICT[suggestion.verdict]}
            {suggestion.reading && !suggestion.sure && suggestion.verdict !== "cannot-tell" && t.lookTwice}
          </span>{" "}
          {suggestion.reason}
        </p>
        <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1.5">
          {trial.places.length > 1 && (
            <span className="flex items-center gap-1.5">
              <span className="text-soft">{t.place}</span>
              <Segments
                name={t.place2}
                small
                value={String(place)}
                choices={trial.places.map((p, i) => ({
                  value: String(i),
                  label: `${i + 1}`,
                  tip: t.frameAroundXYCodes(p.frame, p.box[0], p.box[1], p.disagreement.toFixed(0)),
                }))}
                onChange={(v) => setPlace(Number(v))}
              />
            </span>
          )}
          <span className="flex items-center gap-1.5">
            <span className="text-soft">{t.enlarged}</span>
            <Segments
              name={t.enlarged2}
              small
              value={zoom}
              choices={[
                { value: "1", label: "1×" },
                { value: "2", label: "2×" },
                { value: "3", label: "3×" },
                { value: "4", label: "4×" },
              ]}
              onChange={setZoom}
            />
          </span>
          {spot && <span className="num text-soft">{t.frameXY(spot.frame, spot.box[0], spot.box[1])}</span>}
          <span className="ml-auto text-soft">
            {counted(suggestion.pairs, "pair")}
            {t.ofEdgePixelsComparedPress}
          </span>
          <TakeBack element={element} undo={undo} />
        </div>
        {problem && <ProblemNote problem={asProblem(problem)} />}
      </div>
      <div className="min-h-0 flex-1 overflow-auto">
        {spot && <Sheet element={element} trial={trial} spot={spot} zoom={Number(zoom)} onTake={take} />}
      </div>
    </div>
  );
}

const OVER: Record<string, string> = {
  black: t.overBlack,
  white: t.overWhite,
  grey: t.overMidGrey,
  colour: t.overAStrongColour,
  plate: t.overItsPlate,
};

interface SheetProps {
  element: ElementOut;
  trial: TrialOut;
  spot: TrialOut["places"][number];
  zoom: number;
  onTake: (reading: Reading) => void;
}

function Sheet({ element, trial, spot, zoom, onTake }: SheetProps) {
  const sheet = useQuery({
    queryKey: ["sheet", element.id, element.encoding, trial.readings, spot],
    queryFn: () => trialSheet(element.id, trial.readings, spot),
    placeholderData: (before) => before,
    staleTime: Infinity,
  });
  const [x0, y0, x1, y1] = spot.box;
  const [width, height] = [(x1 - x0) * zoom, (y1 - y0) * zoom];
  if (sheet.error)
    return (
      <div className="p-4">
        <ProblemNote problem={asProblem(sheet.error)} />
      </div>
    );
  return (
    <table className="border-separate border-spacing-x-1.5 border-spacing-y-2 px-2">
      <thead className="sticky top-0 z-10 bg-panel">
        <tr>
          <th className="w-44 min-w-44" />
          {trial.backgrounds.map((b) => (
            <th key={b} className="py-1 text-left font-normal text-soft">
              {OVER[b] ?? b}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {trial.readings.map((reading, row) => (
          <tr key={trial.words[row]}>
            <Candidate element={element} trial={trial} row={row} reading={reading} onTake={onTake} />
            {trial.backgrounds.map((b, column) => (
              <td key={b} className="p-0 align-top">
                <div
                  role="img"
                  aria-label={`${trial.words[row]}, ${OVER[b] ?? b}`}
                  className="bg-surround"
                  style={{
                    width,
                    height,
                    imageRendering: "pixelated",
                    backgroundImage: sheet.data ? `url(${sheet.data})` : undefined,
                    backgroundSize: `${width * trial.backgrounds.length}px ${height * trial.readings.length}px`,
                    backgroundPosition: `-${column * width}px -${row * height}px`,
                  }}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface CandidateProps {
  element: ElementOut;
  trial: TrialOut;
  row: number;
  reading: Reading;
  onTake: (reading: Reading) => void;
}

function Candidate({ element, trial, row, reading, onTake }: CandidateProps) {
  const found = trial.suggestion.candidates.find((c) => readingInWords(c.reading) === trial.words[row]);
  const suggested =
    !!trial.suggestion.reading && readingInWords(trial.suggestion.reading) === trial.words[row];
  const taken = element.reading_words === trial.words[row];
  const matte = reading.alpha === "premultiplied" ? reading.matte : null;
  return (
    <th scope="row" className="w-44 min-w-44 text-left align-top font-normal">
      <p className="flex gap-1.5 font-medium">
        <span className="num shrink-0 rounded border border-line bg-card px-1">{row + 1}</span>
        <span className="[overflow-wrap:anywhere]">{trial.words[row]}</span>
      </p>
      {matte && found?.matte_spread && (
        <p className="num mt-0.5 flex items-center gap-1.5 text-soft">
          <span
            aria-hidden
            className="size-3.5 shrink-0 rounded-sm border border-line"
            style={{ background: hexOf(matte) }}
          />
          ± {(Math.max(...found.matte_spread) * 255).toFixed(1)}
          {t.of255}
        </p>
      )}
      {found?.score != null && (
        <p className="mt-0.5 text-soft" title={t.shareOfTheEdgePixels}>
          {t.explains}
          <span className="num">{Math.round(found.score * 100)} %</span>
          {t.ofTheEdge}
        </p>
      )}
      {suggested && <p className="text-accent">{t.suggested}</p>}
      <Button
        className="mt-1 min-h-6 py-0"
        kind={suggested && !taken ? "main" : "plain"}
        disabled={taken && element.reading_set}
        onClick={() => onTake(reading)}
      >
        {taken ? (element.reading_set ? t.taken : t.confirmIt) : t.takeIt}
      </Button>
    </th>
  );
}
