/** The comp's picture, with what is shown of it in one bar above. */
import { Keyboard } from "lucide-react";
import { memo, useCallback, useEffect, useMemo, useState } from "react";
import type { ElementOut } from "../../api/client";
import type { CompAsk } from "../../api/pictures";
import { layerOf, type CompDocument } from "../../domain/comp";
import type { View } from "../../domain/geometry";
import { LookBar } from "../../parts/LookBar";
import { useReading } from "../../parts/useReading";
import { useSample } from "../../parts/Values";
import { Ask } from "../../ui/Ask";
import { Button, Empty, ProblemNote, SignButton } from "../../ui/basics";
import { Segments } from "../../ui/Segments";
import { usePicture } from "../../ui/usePicture";
import { Viewer, type Wanted } from "../../ui/Viewer";
import { useDesk, type DeskState } from "./deskState";
import { shownDocument, type DocumentStore } from "./documentStore";
import { useDrawTime } from "./drawTime";
import { usePicking, usePoint } from "./pointState";
import { KEYS } from "./useKeys";

interface Props {
  store: DocumentStore;
  comp: number;
  project: number;
  elements: ElementOut[];
}

/** What to ask the server for, from what is looked at and the document as it stands. */
function askFor(desk: DeskState, wanted: Wanted, document: CompDocument, drafting: boolean): CompAsk {
  const chosen = layerOf(document, desk.layer);
  return {
    frame: desk.frame,
    ...wanted,
    look: desk.look,
    quality: drafting || desk.playing ? "fast" : "exact",
    document,
    layer: chosen?.id ?? null,
    extent: chosen ? desk.extent : "comp",
    before: desk.before && !!chosen,
    passing: drafting,
  };
}

/** The newest picture. A draft is asked for as soon as it is made, before the page shows it. */
function useCompPicture(store: DocumentStore, comp: number, wanted: Wanted | null, readings: string) {
  const desk = useDesk();
  const document = store(shownDocument);
  const drafting = store((s) => s.draft !== null);
  const address = `/api/comps/${comp}/picture`;
  const ask = useMemo(
    () => wanted && askFor(desk, wanted, document, drafting),
    [desk, wanted, document, drafting],
  );
  const picture = usePicture(ask && { address, ask, stamp: readings }, "comp");
  const { want } = picture;
  useEffect(
    () =>
      store.subscribe(({ draft }, before) => {
        if (!wanted || !draft || draft === before.draft) return;
        want({ address, ask: askFor(useDesk.getState(), wanted, draft, true), stamp: readings });
      }),
    [store, want, wanted, address, readings],
  );
  return { picture, ask };
}

export function Picture({ store, comp, project, elements }: Props) {
  const [wanted, setWanted] = useState<Wanted | null>(null);
  // what the elements are read as is part of the picture: a change there asks for it again
  const readings = useMemo(
    () => JSON.stringify(elements.map((e) => [e.key, e.reading, e.encoding, e.rate, e.state])),
    [elements],
  );
  const { picture, ask } = useCompPicture(store, comp, wanted, readings);
  useEffect(() => {
    if (picture.drawn) useDrawTime.setState({ milliseconds: picture.drawn.milliseconds });
  }, [picture.drawn]);
  const document = store((s) => s.document);
  const frame = useMemo(
    () => ({ width: document.width, height: document.height }),
    [document.width, document.height],
  );
  const { view, frame: number, playing, layer, set } = useDesk();
  const chosen = layerOf(document, layer);
  const onView = useCallback((next: View | null) => set({ view: next }), [set]);
  const pick = usePick(project, chosen && elements.find((e) => e.key === chosen.element));

  return (
    <>
      <ViewBar hasLayer={!!chosen} hasSteps={!!chosen?.steps.some((s) => s.on)} />
      <PointValues comp={comp} ask={playing ? null : ask} />
      <div className="relative min-h-0 flex-1" data-busy={picture.busy} data-frame-asked={number}>
        {document.layers.length === 0 ? (
          <div className="h-full bg-well">
            <Empty title="Nothing lies here yet">
              Add the plate with + in the lineup below; then what goes in front of it.
            </Empty>
          </div>
        ) : (
          <Viewer
            name={`Picture of ${document.name}, frame ${number}`}
            frame={frame}
            drawn={picture.drawn}
            drawnLevel={picture.level}
            view={view}
            onView={onView}
            onWanted={setWanted}
            onPoint={setPoint}
            onPick={pick}
            onPainted={markPainted}
          />
        )}
      </div>
      {picture.problem && (
        <div className="border-t border-line p-2">
          <ProblemNote problem={picture.problem} />
        </div>
      )}
    </>
  );
}

const setPoint = (point: [number, number] | null) => usePoint.setState({ point });

/** Keeps the values under the pointer up to date; shows nothing itself. */
function PointValues({ comp, ask }: { comp: number; ask: CompAsk | null }) {
  const point = usePoint((p) => p.point);
  const sample = useSample("comp", comp, ask, ask && point);
  useEffect(() => usePoint.setState({ sample }), [sample]);
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

const ViewBar = memo(function ViewBar({ hasLayer, hasSteps }: { hasLayer: boolean; hasSteps: boolean }) {
  const desk = useDesk();
  const [help, setHelp] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => event.key === "?" && setHelp(true);
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <div className="flex flex-wrap items-center gap-x-2.5 gap-y-1.5 border-b border-line bg-card px-3 py-1.5">
      <LookBar look={desk.look} onLook={(look) => desk.set({ look })} />
      {hasLayer && (
        <>
          <Segments
            name="Of"
            value={desk.extent}
            choices={[
              { value: "comp", label: "All", tip: "The whole comp" },
              { value: "upto", label: "Up to it", tip: "The pile up to the chosen layer" },
              { value: "layer", label: "It alone", tip: "The chosen layer alone, as placed" },
            ]}
            onChange={(extent) => desk.set({ extent })}
          />
          <Button
            aria-pressed={desk.before}
            title={
              hasSteps ? "The chosen layer without its steps (B)" : "The comp without the chosen layer (B)"
            }
            onClick={() => desk.set({ before: !desk.before })}
            className={desk.before ? "border-accent bg-accent-soft text-accent" : ""}
          >
            Before
          </Button>
        </>
      )}
      <SignButton name="Keys (?)" onClick={() => setHelp(true)} className="ml-auto">
        <Keyboard className="size-4" />
      </SignButton>
      <Ask title="Keys" open={help} onClose={() => setHelp(false)}>
        <table>
          <tbody>
            {KEYS.map(([key, does]) => (
              <tr key={key}>
                <th scope="row" className="num py-0.5 pr-6 text-left font-medium">
                  {key}
                </th>
                <td>{does}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="mt-3 text-soft">
          In the picture: the wheel zooms, dragging pans, a double click fits. In numbers: ↑ ↓ nudge, with
          Shift ten times as far, with Alt a tenth; a double click on the name goes back to its rest.
        </p>
      </Ask>
    </div>
  );
});
