/** What gives light: lamps, what surfaces send each other, the environment; and the true composite's plate. */
import type { ElementOut } from "../../api/client";
import { Choose } from "../../ui/Choose";
import { NumberField } from "../../ui/NumberField";
import { Tick } from "../../ui/Tick";
import { Line, SetupSection, type SectionProps } from "./sections";
import { useSetup } from "./setupStore";

export function LightSection({ setup, elements }: SectionProps & { elements: ElementOut[] }) {
  const { commit, sketch } = useSetup.getState();
  const around = setup.environment;
  const says = [
    setup.lights ? "lit" : "no lights",
    setup.indirect ? `${setup.bounces} bounces` : "direct only",
    around ? "environment" : "",
  ];
  return (
    <SetupSection title="Light" says={says.filter(Boolean).join(", ")}>
      <Tick label="Lights shine" checked={setup.lights} onChange={(lights) => commit({ lights })} />
      <Tick
        label="Surfaces light each other"
        checked={setup.indirect}
        onChange={(indirect) => commit({ indirect })}
        help="Indirect light: off for a quick look at shapes and alpha"
      />
      {setup.indirect && (
        <>
          <NumberField
            name="Bounces"
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
            name="Firefly clamp"
            help="Light that one indirect ray brings at most: against bright specks"
            value={setup.firefly_clamp}
            min={0.01}
            max={1e6}
            step={0.5}
            rest={10}
            onCommit={(firefly_clamp) => commit({ firefly_clamp })}
          />
        </>
      )}
      <Line label="Environment">
        <ElementChoice
          name="Environment picture"
          value={around?.picture ?? null}
          elements={elements}
          onChange={(picture) =>
            commit({
              environment:
                picture === null ? null : { strength: 1, rotation: 0, visible: false, ...around, picture },
            })
          }
        />
      </Line>
      {around && (
        <>
          <NumberField
            name="Strength"
            value={around.strength}
            min={0}
            max={1000}
            rest={1}
            slider={[0, 4]}
            onDraft={(strength) => sketch({ environment: { ...around, strength } })}
            onCommit={(strength) => commit({ environment: { ...around, strength } })}
          />
          <NumberField
            name="Turn"
            unit="°"
            value={around.rotation}
            min={-360}
            max={360}
            step={1}
            rest={0}
            slider={[-180, 180]}
            onDraft={(rotation) => sketch({ environment: { ...around, rotation } })}
            onCommit={(rotation) => commit({ environment: { ...around, rotation } })}
          />
          <Tick
            label="The camera sees it"
            checked={around.visible}
            onChange={(visible) =>
              commit({ environment: { ...around, visible }, ...(visible ? { over: [0, 0, 0] } : {}) })
            }
            help="Its colour is then in the RGB, and the render must be read as straight"
          />
        </>
      )}
      <Line label="Plate">
        <ElementChoice
          name="Plate of the true composite"
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
        { value: "-", label: "None" },
        ...elements.filter((e) => e.state === "ready").map((e) => ({ value: e.key, label: e.name })),
      ]}
      onChange={(key) => onChange(key === "-" ? null : key)}
    />
  );
}
