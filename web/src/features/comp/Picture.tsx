/** The comp's picture, with what is shown of it in one bar above. */
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import type { ElementOut, Problem } from "../../api/client";
import { queries } from "../../api/queries";
import type { CompAsk, Drawn } from "../../api/pictures";
import { layerOf, type CompDocument, type Layer, elementOf } from "../../domain/comp";
import type { View } from "../../domain/geometry";
import { stampOf } from "../../domain/stampOf";
import { useReading } from "../../parts/useReading";
import { useSample } from "../../parts/Values";
import { Empty, ProblemNote } from "../../ui/basics";
import type { Mark } from "../../ui/marks";
import { usePicture } from "../../ui/usePicture";
import { Viewer, type Wanted } from "../../ui/Viewer";
import { CompareBar, useAgainst } from "./CompareBar";
import { sidesOf, type Against } from "./comparing";
import { useDesk, useDeskFields, type DeskState } from "./deskState";
import { shownDocument, type DocumentStore } from "./documentStore";
import { paced, RESTING, setPace } from "./draftPace";
import { useDrawTime } from "./drawTime";
import { DrawOver } from "./drawing/DrawOver";
import { ChannelBoard } from "./mattes/ChannelBoard";
import { usePicking, usePoint } from "./pointState";
import { useReady } from "./readyFrames";
import { useFilled } from "./useFilled";
import { ViewBar } from "./ViewBar";
import { text } from "./strings";

const t = text.Picture;

interface Props {
  store: DocumentStore;
  comp: number;
  project: number;
  elements: ElementOut[];
}

/** What of the desk the picture depends on. */
const ASKED = [
  "frame",
  "layer",
  "look",
  "extent",
  "extra_channel",
  "before",
  "playing",
  "tool",
  "matteShown",
] as const;
type Looked = Pick<DeskState, (typeof ASKED)[number]>;

/** What to ask the server for, from what is looked at and the document as it stands. */
function askFor(desk: Looked, wanted: Wanted, document: CompDocument, drafting: boolean): CompAsk {
  const chosen = layerOf(document, desk.layer);
  const extraChannel =
    desk.extent === "layer" && desk.extra_channel?.element === (chosen && elementOf(chosen))
      ? desk.extra_channel
      : null;
  return {
    frame: desk.frame,
    ...(drafting ? paced(wanted) : wanted),
    look: desk.look,
    quality: drafting || desk.playing ? "fast" : "exact",
    document,
    layer: chosen?.id ?? null,
    extent: chosen ? desk.extent : "comp",
    before: desk.before && !!chosen,
    extra_channel: extraChannel?.name ?? null,
    ...matteAsk(desk, chosen),
    passing: drafting,
  };
}

/** A matte alone over its layer; or the layer without its own, while that is made on it. */
function matteAsk(desk: Looked, chosen: Layer | undefined): Partial<CompAsk> {
  const { matteShown: shown, tool } = desk;
  if (shown && chosen?.id === shown.owner.layer)
    return { extent: "layer", before: false, matte: { step: shown.owner.step, part: shown.part } };
  const marking = tool?.kind === "regions" || tool?.kind === "screen";
  return marking && tool.owner.layer === chosen?.id ? { uncut: true } : {};
}

/** The newest picture. A draft is asked for as soon as it is made, before the page shows it. */
function useCompPicture(
  store: DocumentStore,
  comp: number,
  wanted: Wanted | null,
  readings: string,
  against: Against | undefined,
) {
  const desk = useDeskFields(...ASKED);
  const compare = useDesk((d) => d.compare);
  const document = store(shownDocument);
  const drafting = store((s) => s.draft !== null);
  const address = `/api/comps/${comp}/picture`;
  const ask = useMemo(
    () => wanted && askFor(desk, wanted, document, drafting),
    [desk, wanted, document, drafting],
  );
  const sides = ask && sidesOf(ask, compare, against);
  // what is ready is not asked for again while it plays
  const held = useReady((r) => desk.playing && r.frames.has(desk.frame));
  const picture = usePicture(sides && !held ? { address, ask: sides.first, stamp: readings } : null, "comp");
  const second = sides?.second ?? null;
  const other = usePicture(second && { address, ask: second, stamp: readings }, "comp-other");
  const { want } = picture;
  useEffect(() => {
    let resting = 0;
    const stop = store.subscribe(({ draft }, before) => {
      if (draft === before.draft) return;
      window.clearTimeout(resting);
      if (!wanted || !draft) return;
      const now = useDesk.getState();
      // a comparison is drawn once the page knows both sides
      if (now.compare.how !== "off") return;
      const ask = askFor(now, wanted, draft, true);
      want({ address, ask, stamp: readings });
      if (ask.level === wanted.level) return;
      // held still: as fine as ever
      resting = window.setTimeout(
        () => want({ address, ask: { ...ask, ...wanted }, stamp: readings }),
        RESTING,
      );
    });
    return () => {
      window.clearTimeout(resting);
      stop();
    };
  }, [store, want, wanted, address, readings]);
  return { picture, ask, other: second ? other : null };
}

export function Picture({ store, comp, project, elements }: Props) {
  const [wanted, setWanted] = useState<Wanted | null>(null);
  // what the elements are read as is part of the picture: a change there asks for it again
  const cameras = useQuery(queries.cameras(project)).data;
  const readings = useMemo(
    () => [...elements.map((e) => `${e.key} ${stampOf(e)}`), ...(cameras ?? []).map((c) => c.stamp)].join(),
    [elements, cameras],
  );
  const { chosen: against } = useAgainst(store, comp, project);
  const { picture, ask, other } = useCompPicture(store, comp, wanted, readings, against);
  useEffect(() => {
    if (!picture.drawn) return;
    useDrawTime.setState({ milliseconds: picture.drawn.milliseconds });
    if (store.getState().draft) setPace(picture.drawn.milliseconds);
  }, [picture.drawn, store]);
  const filled = useFilled(store, comp, ask, readings);
  const document = store((s) => s.document);
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
