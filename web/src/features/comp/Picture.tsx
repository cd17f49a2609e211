/** The comp's picture, with what is shown of it in one bar above. */
import { Keyboard } from "lucide-react";
import { useCallback, useEffect, useMemo, useState } from "react";
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
import { useDesk, type Extent } from "./deskState";
import { usePicking, usePoint } from "./pointState";
import { KEYS } from "./useKeys";

interface Props {
  comp: number;
  project: number;
  document: CompDocument;
  drafting: boolean;
  elements: ElementOut[];
  onTime: (milliseconds: number) => void;
}

export function Picture({ comp, project, document, drafting, elements, onTime }: Props) {
  const desk = useDesk();
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const chosen = layerOf(document, desk.layer);
  const extent: Extent = chosen ? desk.extent : "comp";
  const quick = drafting || desk.playing;
  // what the elements are read as is part of the picture: a change there asks for it again
  const readings = useMemo(
    () => JSON.stringify(elements.map((e) => [e.key, e.reading, e.encoding, e.rate, e.state])),
    [elements],
  );
  const ask = useMemo<CompAsk | null>(
    () =>
      wanted && {
        frame: desk.frame,
        ...wanted,
        look: desk.look,
        quality: quick ? "fast" : "exact",
        document,
        layer: chosen?.id ?? null,
        extent,
        before: desk.before && !!chosen,
      },
    [wanted, desk.frame, desk.look, desk.before, quick, document, chosen, extent],
  );
  const picture = usePicture(ask && { address: `/api/comps/${comp}/picture`, ask, stamp: readings }, "comp");
  const point = usePoint();
  const sample = useSample("comp", comp, ask, desk.playing ? null : point.point);
  useEffect(() => usePoint.setState({ sample }), [sample]);
  useEffect(() => {
    if (picture.drawn) onTime(picture.drawn.milliseconds);
  }, [picture.drawn, onTime]);
  const onPoint = useCallback((at: [number, number] | null) => usePoint.setState({ point: at }), []);
  const pick = usePick(project, chosen && elements.find((e) => e.key === chosen.element));

  return (
    <>
      <ViewBar hasLayer={!!chosen} hasSteps={!!chosen?.steps.some((s) => s.on)} />
      <div className="relative min-h-0 flex-1" data-busy={picture.busy} data-frame-asked={desk.frame}>
        {document.layers.length === 0 ? (
          <div className="h-full bg-well">
            <Empty title="Nothing lies here yet">
              Add the plate with + in the lineup below; then what goes in front of it.
            </Empty>
          </div>
        ) : (
          <Viewer
            name={`Picture of ${document.name}, frame ${desk.frame}`}
            frame={{ width: document.width, height: document.height }}
            drawn={picture.drawn}
            drawnLevel={picture.level}
            view={desk.view}
            onView={(view: View | null) => desk.set({ view })}
            onWanted={setWanted}
            onPoint={onPoint}
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

function ViewBar({ hasLayer, hasSteps }: { hasLayer: boolean; hasSteps: boolean }) {
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
}
