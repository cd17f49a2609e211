/** The comp's picture, with what is shown of it in one bar above. */
import { useCallback, useEffect, useMemo, useState } from "react";
import type { ElementOut, Problem } from "../../api/client";
import type { CompAsk, Drawn } from "../../api/pictures";
import { layerOf, elementOf } from "../../domain/comp";
import type { View } from "../../domain/geometry";
import { useReading } from "../../parts/useReading";
import { useSample } from "../../parts/Values";
import { Empty, ProblemNote } from "../../ui/basics";
import type { Mark } from "../../ui/marks";
import { Viewer, type Wanted } from "../../ui/Viewer";
import { CompareBar, useAgainst } from "./CompareBar";
import { useDesk, useDeskFields } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { setPace } from "./draftPace";
import { NotesOver } from "./Notes";
import { useDrawTime } from "./drawTime";
import { DrawOver } from "./drawing/DrawOver";
import { ChannelBoard } from "./mattes/ChannelBoard";
import { usePicking, usePoint } from "./pointState";
import { useCompPicture, useStamp } from "./useCompPicture";
import { useFilled } from "./useFilled";
import { ViewBar } from "./ViewBar";
import { text } from "./strings";

const t = text.Picture;

/** Milliseconds from which on it is said that a picture is waited for. */
const LATE = 300;

interface Props {
  store: DocumentStore;
  comp: number;
  project: number;
  elements: ElementOut[];
}

export function Picture({ store, comp, project, elements }: Props) {
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const document = store((s) => s.document);
  const stampFor = useStamp(project, elements);
  const { chosen: against } = useAgainst(store, comp, project);
  const { picture, ask, shown, readings, other } = useCompPicture(store, comp, wanted, stampFor, against);
  useEffect(() => {
    if (!picture.drawn) return;
    useDrawTime.setState({ milliseconds: picture.drawn.milliseconds });
    if (store.getState().draft) setPace(picture.drawn.milliseconds);
  }, [picture.drawn, store]);
  useEffect(() => {
    useDrawTime.setState({ waiting: false });
    if (!picture.busy) return;
    const late = setTimeout(() => useDrawTime.setState({ waiting: true }), LATE);
    return () => clearTimeout(late);
  }, [picture.busy, picture.drawn]);
  const filled = useFilled(store, comp, shown, readings);
  const frame = useMemo(
    () => ({ width: document.width, height: document.height }),
    [document.width, document.height],
  );
  const {
    view,
    frame: number,
    playing,
    layer,
    compare,
    drawing,
    mark,
    tool,
    board,
    set,
  } = useDeskFields(
    "view",
    "frame",
    "playing",
    "layer",
    "compare",
    "drawing",
    "mark",
    "tool",
    "board",
    "set",
  );
  const chosen = layerOf(document, layer);
  // beside the comp's own column, where their list is: nothing lies over an edge that is judged
  const noting = useDesk((d) => d.noting);
  const pinned = noting || (!chosen && document.notes.some((n) => n.frame === number));
  const onView = useCallback((next: View | null) => set({ view: next }), [set]);
  const pick = usePick(project, chosen && elements.find((e) => e.key === elementOf(chosen)));

  return (
    <>
      <ViewBar element={(chosen && elementOf(chosen)) ?? null} hasSteps={!!chosen?.steps.some((s) => s.on)} />
      {compare.how !== "off" && <CompareBar store={store} comp={comp} project={project} />}
      <PointValues comp={comp} ask={playing ? null : ask} />
      <div
        className="relative flex min-h-0 flex-1"
        data-busy={picture.busy || (other?.busy ?? false)}
        data-frame-asked={number}
      >
        {document.layers.length === 0 ? (
          <div className="h-full flex-1 bg-well">
            <Empty title={t.nothingLiesHereYet}>{t.addThePlateWithIn}</Empty>
          </div>
        ) : (
          <>
            <div className="h-full min-w-0 flex-1">
              <Viewer
                name={t.pictureOfFrame(document.name, number)}
                frame={frame}
                drawn={filled ?? picture.drawn}
                drawnLevel={filled ? (ask?.level ?? 0) : picture.level}
                view={view}
                onView={onView}
                onWanted={setWanted}
                onPoint={setPoint}
                onPick={pick}
                onPainted={markPainted}
                mark={mark}
                drawing={drawing}
                onMark={setMark}
                over={
                  tool
                    ? (at, room) => <DrawOver {...{ store, comp, tool, elements, room }} view={at} />
                    : pinned
                      ? (at, room) => <NotesOver {...{ store, room }} view={at} />
                      : undefined
                }
                wipe={
                  other && against && compare.how === "wipe"
                    ? {
                        drawn: other.drawn,
                        level: other.level,
                        at: compare.at,
                        angle: compare.angle,
                        onMove: (at) => set({ compare: { ...compare, at } }),
                        left: "as it is",
                        right: against.option.label,
                      }
                    : null
                }
              />
            </div>
            {other && against && compare.how === "beside" && (
              <div className="relative h-full min-w-0 flex-1 border-l-2 border-ink">
                <Viewer
                  name={t.pictureOf(document.name, against.option.label)}
                  frame={frame}
                  drawn={other.drawn}
                  drawnLevel={other.level}
                  view={view}
                  onView={onView}
                  onWanted={ignore}
                  onPoint={setPoint}
                  mark={mark}
                />
                <span className="pointer-events-none absolute bottom-2 left-2 rounded bg-black/70 px-1.5 py-0.5 text-white">
                  {against.option.label}
                </span>
              </div>
            )}
          </>
        )}
        {board && <ChannelBoard store={store} comp={comp} asked={board} />}
      </div>
      <Problems store={store} failed={picture.problem ?? other?.problem ?? null} drawn={picture.drawn} />
    </>
  );
}

/** Why there is no picture, or which layers it is without; and that a comp cannot be changed here. */
function Problems({
  store,
  failed,
  drawn,
}: {
  store: DocumentStore;
  failed: Problem | null;
  drawn: Drawn | null;
}) {
  const newer = store((s) => s.comp.newer);
  const told = failed ? [failed] : (drawn?.problems ?? []);
  if (told.length === 0 && !newer) return null;
  return (
    <div className="max-h-40 space-y-1.5 overflow-auto border-t border-line p-2">
      {newer && (
        <p role="status" className="rounded-md border border-warn bg-card px-3 py-1.5">
          {t.aNewerVersionOfNeat}
        </p>
      )}
      {told.map((problem) => (
        <ProblemNote key={problem.message} problem={problem} />
      ))}
    </div>
  );
}

const ignore = () => undefined;
const setMark = (mark: Mark | null) => useDesk.setState({ mark });
const setPoint = (point: [number, number] | null) => usePoint.setState({ point });

/** Keeps the values under the pointer up to date; shows nothing itself. */
function PointValues({ comp, ask }: { comp: number; ask: CompAsk | null }) {
  const point = usePoint((p) => p.point);
  // while the hand moves, the picture goes first: values are asked once it rests
  const sample = useSample("comp", comp, ask, ask?.passing ? null : point);
  useEffect(() => usePoint.setState({ sample }), [sample]);
  useEffect(() => usePoint.setState({ ask: ask?.passing ? null : ask }), [ask]);
  return null;
}

/** Measured by the bench: when the newest picture was put on the screen. */
function markPainted() {
  performance.mark("picture-drawn");
}

/** Picking a matte colour: the stored value under the click becomes the layer's matte colour. */
function usePick(project: number, element: ElementOut | undefined) {
  const { picking } = usePicking();
  const { set } = useReading(project);
  if (!picking || !element) return undefined;
  return () => {
    usePicking.setState({ picking: false });
    const stored = usePoint.getState().sample?.stored;
    if (!stored) return;
    const [r, g, b] = stored.map((v) => Math.max(0, Math.min(1, v)));
    set.mutate({
      elements: [element.id],
      reading: { ...element.reading, alpha: "premultiplied", matte: [r!, g!, b!] },
    });
  };
}
