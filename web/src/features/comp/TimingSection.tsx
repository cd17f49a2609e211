/** The recipe's section Timing: when a layer is seen, and which of its own frames then. */
import type { ElementOut } from "../../api/client";
import { changeLayer, lifeOf, type CompDocument, type Layer } from "../../domain/comp";
import { frozenFrame, ownFrames, shortfallInWords, type Clip } from "../../domain/time";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import { Tick } from "../../ui/Tick";
import { AnimatedNumber } from "./AnimatedNumber";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { FrameLimits } from "./FrameLimits";
import { text } from "./strings";

const t = text.TimingSection;

interface Props {
  store: DocumentStore;
  layer: Layer;
  document: CompDocument;
}

export function TimingSection({
  store,
  layer,
  document,
  element,
}: Props & { element: ElementOut | undefined }) {
  const { commit } = store.getState();
  const clip = layer.kind === "group" ? { ...document, kind: "group" } : (element?.facts ?? null);
  const timed = element?.facts && layer.own_frame === null;
  const own = timed ? ownFrames(document, layer, element.facts!, element.rate) : null;
  const shortfall = shortfallInWords(own, lifeOf(document, layer), layer.beyond);
  const whole = (v: number) => Math.round(v);
  return (
    <div className="space-y-1">
      <FrameLimits
        value={layer}
        within={document}
        onChange={(frames, which) =>
          commit((d) => changeLayer(d, layer.id, frames), t.framesOf(which, layer.name))
        }
      />
      <NumberField
        name={t.offset}
        help={t.framesAfterTheCompsFirst}
        value={layer.offset}
        step={1}
        digits={0}
        rest={0}
        unit="fr"
        onCommit={(v) =>
          commit((d) => changeLayer(d, layer.id, { offset: whole(v) }), t.offsetOf(layer.name))
        }
      />
      <Pace {...{ store, layer, document, clip }} rate={element?.rate ?? null} />
      <Tick
        label={t.reverse}
        checked={layer.reverse}
        onChange={(reverse) => commit((d) => changeLayer(d, layer.id, { reverse }), t.reverseOf(layer.name))}
      />
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">{t.beyond}</span>
        <Segments<Layer["beyond"]>
          name={t.beyondTheElementsFrames}
          small
          value={layer.beyond}
          choices={[
            { value: "hold", label: t.hold },
            { value: "loop", label: t.loop },
            { value: "ping-pong", label: t.pingPong },
            { value: "blank", label: t.blank },
          ]}
          onChange={(beyond) =>
            commit((d) => changeLayer(d, layer.id, { beyond }), t.framesBeyond(layer.name))
          }
        />
      </div>
      {clip && clip.kind !== "still" && (
        <div className="flex min-h-7 items-center gap-2">
          <span className="w-20 shrink-0 text-soft">{t.inBetween}</span>
          <Segments<Layer["between"]>
            name={t.betweenTwoOfItsFrames}
            small
            value={layer.between}
            choices={[
              { value: "begun", label: t.begun, tip: t.theFrameThatHasBegun },
              { value: "nearest", label: t.nearest, tip: t.theFrameWhoseTimeIs },
              { value: "blend", label: t.blend, tip: t.bothFramesMixedInLinear },
            ]}
            onChange={(between) =>
              commit((d) => changeLayer(d, layer.id, { between }), t.betweenOf(layer.name))
            }
          />
        </div>
      )}
      {shortfall && <p className="text-soft">{shortfall}</p>}
    </div>
  );
}

/** How a layer runs through its own frames: at a speed, or by the number of the frame, frozen or along a curve. */
function Pace({ store, layer, document, clip, rate }: Props & { clip: Clip | null; rate: string | null }) {
  const { commit } = store.getState();
  if (!clip || clip.kind === "still") return null;
  const by = layer.own_frame === null ? "speed" : "frame";
  const choose = (to: typeof by) => {
    const now = useDesk.getState().frame;
    const frozen = to === "frame" ? frozenFrame(document, layer, clip, rate, now) : null;
    commit(
      (d) => changeLayer(d, layer.id, { own_frame: frozen, keys: withoutOwnFrame(layer) }),
      t.paceOf(layer.name),
    );
  };
  return (
    <>
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">{t.runsBy}</span>
        <Segments
          name={t.whatItRunsBy}
          small
          value={by}
          choices={[
            { value: "speed", label: t.bySpeed, tip: t.oneFrameAfterAnother },
            { value: "frame", label: t.byOwnFrame, tip: t.theNumberOfItsOwn },
          ]}
          onChange={choose}
        />
      </div>
      {by === "speed" ? (
        <NumberField
          name={t.speed}
          help={t.n2IsTwiceAsFast}
          value={layer.speed}
          min={0.001}
          max={1000}
          rest={1}
          unit="×"
          onCommit={(v) => commit((d) => changeLayer(d, layer.id, { speed: v }), t.speedOf(layer.name))}
        />
      ) : (
        <>
          <AnimatedNumber
            {...{ store, layer }}
            path={{ of: "layer" }}
            field="own_frame"
            what={t.ownFrameOf(layer.name)}
            name={t.ownFrame}
            step={1}
            digits={2}
            slider={[clip.first, clip.last]}
            rest={clip.first}
          />
          {!layer.keys["own_frame"] && <p className="text-soft">{t.frozenPressTheKeyTo}</p>}
        </>
      )}
    </>
  );
}

/** The layer's curves but for the one of its own frame. */
function withoutOwnFrame(layer: Layer): Layer["keys"] {
  return Object.fromEntries(Object.entries(layer.keys).filter(([name]) => name !== "own_frame"));
}
