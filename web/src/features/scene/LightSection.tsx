/** What gives light: lamps, what surfaces send each other, the environment; and the true composite's plate. */
import type { ElementOut } from "../../api/client";
import { Choose } from "../../ui/Choose";
import { NumberField } from "../../ui/NumberField";
import { Tick } from "../../ui/Tick";
import { KeyedNumber } from "./KeyedNumber";
import { Lamps } from "./Lamps";
import { SetupSection, type SectionProps } from "./sections";
import { useSetup } from "./setupStore";
import { Line } from "../../ui/Line";
import { text } from "./strings";

const t = text.LightSection;

export function LightSection({
  setup,
  elements,
  frame,
}: SectionProps & { elements: ElementOut[]; frame: number }) {
  const { commit, sketch } = useSetup.getState();
  const around = setup.environment;
  const own = around && {
    part: around,
    frame,
    put: (environment: typeof around, how: "sketch" | "commit") => useSetup.getState()[how]({ environment }),
  };
  const says = [
    setup.lights ? "lit" : "no lights",
    setup.indirect ? t.bounces2(setup.bounces) : t.directOnly,
    around ? "environment" : "",
  ];
  return (
    <SetupSection title={t.light} says={says.filter(Boolean).join(", ")}>
      <Tick label={t.lightsShine} checked={setup.lights} onChange={(lights) => commit({ lights })} />
      {setup.lights && <Lamps setup={setup} frame={frame} />}
      <Tick
        label={t.surfacesLightEachOther}
        checked={setup.indirect}
        onChange={(indirect) => commit({ indirect })}
        help={t.indirectLightOffForA}
      />
      {setup.indirect && (
        <>
          <NumberField
            name={t.bounces}
            value={setup.bounces}
            min={1}
            max={16}
            step={1}
            digits={0}
            rest={3}
            slider={[1, 8]}
            onDraft={(bounces) => sketch({ bounces })}
            onCommit={(bounces) => commit({ bounces })}
          />
          <NumberField
            name={t.fireflyClamp}
            help={t.lightThatOneIndirectRay}
            value={setup.firefly_clamp}
            min={0.01}
            max={1e6}
            step={0.5}
            rest={10}
            onCommit={(firefly_clamp) => commit({ firefly_clamp })}
          />
        </>
      )}
      <Line label={t.environment}>
        <ElementChoice
          name={t.environmentPicture}
          value={around?.picture ?? null}
          elements={elements}
          onChange={(picture) =>
            commit({
              environment:
                picture === null
                  ? null
                  : { strength: 1, rotation: 0, visible: false, keys: {}, ...around, picture },
            })
          }
        />
      </Line>
      {own && (
        <>
          <KeyedNumber
            {...own}
            field="strength"
            name={t.strength}
            min={0}
            max={1000}
            rest={1}
            slider={[0, 4]}
          />
          <KeyedNumber
            {...own}
            field="rotation"
            name={t.turn}
            unit="°"
            min={-360}
            max={360}
            step={1}
            rest={0}
            slider={[-180, 180]}
          />
          <Tick
            label={t.theCameraSeesIt}
            checked={own.part.visible}
            onChange={(visible) =>
              commit({ environment: { ...own.part, visible }, ...(visible ? { over: [0, 0, 0] } : {}) })
            }
            help={t.itsColourIsThenIn}
          />
        </>
      )}
      <Line label={t.plate}>
        <ElementChoice
          name={t.plateOfTheTrueComposite}
          value={setup.plate}
          elements={elements}
          onChange={(plate) => commit({ plate })}
        />
      </Line>
    </SetupSection>
  );
}

function ElementChoice({
  name,
  value,
  elements,
  onChange,
}: {
  name: string;
  value: string | null;
  elements: ElementOut[];
  onChange: (key: string | null) => void;
}) {
  return (
    <Choose
      name={name}
      value={value ?? "-"}
      options={[
        { value: "-", label: t.none },
        ...elements.filter((e) => e.state === "ready").map((e) => ({ value: e.key, label: e.name })),
      ]}
      onChange={(key) => onChange(key === "-" ? null : key)}
    />
  );
}
