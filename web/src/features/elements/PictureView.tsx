/** Looking at one element: any channel, over anything, compared with anything, with its numbers. */
import { Minus, MousePointer2, Square } from "lucide-react";
import { useMemo, useState } from "react";
import type { ElementOut } from "../../api/client";
import type { ElementAsk } from "../../api/pictures";
import type { View } from "../../domain/geometry";
import { restingFrame } from "../../domain/time";
import { LookBar } from "../../parts/LookBar";
import { useLookOfAddress } from "../../parts/lookAddress";
import { useReading } from "../../parts/useReading";
import { useSample } from "../../parts/Values";
import { ProblemNote, SignButton, Waiting } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { usePicture } from "../../ui/usePicture";
import type { Mark } from "../../ui/marks";
import { Viewer, type Wanted } from "../../ui/Viewer";
import { passesOf } from "./channels";
import { CompareBar, FIRST_COMPARISON, type Comparison } from "./CompareBar";
import { Instruments } from "./Instruments";
import { stampOf } from "../../domain/stampOf";
import { usePick } from "./pick";
import { TimeRow } from "./TimeRow";
import { text } from "./strings";

const t = text.PictureView;

interface Props {
  element: ElementOut;
  project: number;
  rows: ElementOut[];
}

export function PictureView({ element, project, rows }: Props) {
  const [look, setLook] = useLookOfAddress();
  const [view, setView] = useState<View | null>(null);
  const [wanted, setWanted] = useState<Wanted>({ level: 1, region: null });
  const [point, setPoint] = useState<[number, number] | null>(null);
  const [drawing, setDrawing] = useState<Mark["kind"] | null>(null);
  const [mark, setMark] = useState<Mark | null>(null);
  const [pass, setPass] = useState("");
  const [stretched, setStretch] = useState<boolean>();
  const [compare, setCompare] = useState<Comparison>(FIRST_COMPARISON);
  const [playing, setPlaying] = useState(false);
  const facts = element.facts;
  const { width, height } = facts ?? { width: 0, height: 0 };
  const size = useMemo(() => ({ width, height }), [width, height]);
  const [frame, setFrame] = useState<number>();
  const number = frame ?? (facts ? restingFrame(facts) : 0);
  const { set } = useReading(project);
  const { picking, setPicking } = usePick();

  const stretch = stretched ?? element.holds !== "";

  const ready = element.state === "ready" && !element.replaced;
  const passes = useMemo(() => passesOf(element), [element]);
  const shown = passes.find((p) => p.value === pass) ?? passes[0]!;
  const base = useMemo<ElementAsk>(
    () => ({
      frame: number,
      ...wanted,
      look: shown.planes ? { ...look, channel: "rgb" } : look,
      quality: playing ? "fast" : "exact",
      reading: element.reading,
      encoding: element.encoding,
      planes: shown.planes,
      stretch,
    }),
    [number, wanted, look, shown, playing, element.reading, element.encoding, stretch],
  );
  const ask = useMemo<ElementAsk | null>(() => {
    if (!ready) return null;
    const behind = compare.under ? { element: compare.under } : null;
    if (compare.how === "difference" && compare.other)
      return { ...base, against: compare.other, gain: compare.gain };
    return { ...base, under: behind };
  }, [ready, base, compare]);
  const second = useMemo(
    () =>
      ready && compare.how === "wipe" && compare.other
        ? {
            address: `/api/elements/${compare.other.element}/picture`,
            ask: {
              ...base,
              planes: null,
              reading: compare.other.reading,
              encoding: compare.other.encoding,
              under: compare.under ? { element: compare.under } : null,
            },
          }
        : null,
    [ready, base, compare],
  );
  const picture = usePicture(
    ask && { address: `/api/elements/${element.id}/picture`, ask, stamp: stampOf(element) },
    "element",
  );
  const other = usePicture(second, "element-other");
  const sample = useSample("element", element.id, ready ? base : null, point);

  const pick = () => {
    setPicking(false);
    const stored = sample?.stored;
    if (!stored) return;
    const matte = stored.slice(0, 3).map((v) => Math.max(0, Math.min(1, v))) as [number, number, number];
    set.mutate({
      elements: [element.id],
      reading: { ...element.reading, alpha: "premultiplied", matte } as never,
    });
  };

  const tool = (kind: Mark["kind"] | null, name: string, sign: React.ReactNode) => (
    <SignButton
      name={name}
      aria-pressed={drawing === kind}
      className={drawing === kind ? "bg-accent-soft text-accent" : ""}
      onClick={() => setDrawing(kind)}
    >
      {sign}
    </SignButton>
  );

  return (
    <>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1.5 border-b border-line bg-card px-3 py-1.5">
        <LookBar look={look} onLook={setLook} />
        <span className="flex items-center gap-1.5">
          <span className="text-soft">{t.ofWord}</span>
          <span className="flex w-24">
            <Choose
              name={t.channelOrPass}
              value={shown.value || "picture"}
              options={passes.map((p) => ({
                value: p.value || "picture",
                label: p.label,
                help: p.data ? t.data : "",
              }))}
              onChange={(value) => setPass(value === "picture" ? "" : value)}
            />
          </span>
          {shown.planes && (
            <label className="flex items-center gap-1" title={t.blackIsTheSmallestValue}>
              <input
                type="checkbox"
                checked={stretch}
                onChange={(event) => setStretch(event.target.checked)}
                className="size-3.5 accent-[var(--accent)]"
              />
              {t.stretch}
            </label>
          )}
        </span>
        <CompareBar element={element} rows={rows} value={compare} onChange={setCompare} />
        <span className="ml-auto flex">
          {tool(null, t.pan, <MousePointer2 className="size-4" />)}
          {tool("line", t.drawALineTheEdges, <Minus className="size-4 -rotate-45" />)}
          {tool("box", t.drawABoxMeanStandard, <Square className="size-4" />)}
        </span>
      </div>
      <div className="min-h-0 flex-1" data-busy={picture.busy || other.busy}>
        {ready && facts ? (
          <Viewer
            name={t.pictureOf(element.name)}
            frame={size}
            drawn={picture.drawn}
            drawnLevel={picture.level}
            view={view}
            onView={setView}
            onWanted={setWanted}
            onPoint={setPoint}
            onPick={picking ? pick : undefined}
            mark={mark}
            drawing={drawing}
            onMark={setMark}
            wipe={
              second && {
                drawn: other.drawn,
                level: other.level,
                at: compare.at,
                onMove: (at) => setCompare((c) => ({ ...c, at })),
                left: "as it is read",
                right: compare.words,
              }
            }
          />
        ) : (
          <div className="p-4">
            {element.problem ? (
              <ProblemNote problem={element.problem} />
            ) : element.replaced ? (
              <p className="rounded-md border border-warn bg-card px-3 py-2">{t.anotherFileLiesUnderThis}</p>
            ) : (
              <Waiting what={t.lookingAtTheFile} />
            )}
          </div>
        )}
      </div>
      {(picture.problem ?? other.problem) && (
        <div className="p-2">
          <ProblemNote problem={(picture.problem ?? other.problem)!} />
        </div>
      )}
      {facts && facts.kind !== "still" && (
        <TimeRow
          element={element}
          frame={number}
          onFrame={setFrame}
          playing={playing}
          onPlaying={setPlaying}
        />
      )}
      {ready && (
        <Instruments
          element={element}
          ask={base}
          point={point}
          sample={sample}
          mark={mark}
          onMark={setMark}
        />
      )}
    </>
  );
}
