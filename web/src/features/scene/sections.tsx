/** The rungs of a set-up: each part of it, in the order in which a render is thought of. */
import type { ReactNode } from "react";
import type { ElementOut } from "../../api/client";
import type { RenderSetup, SceneFacts } from "../../api/scenes";
import { codeOfLight, lightOfCode } from "../../domain/light";
import { colourOf, hexOf, rateInWords } from "../../domain/words";
import { Choose } from "../../ui/Choose";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import { Tick } from "../../ui/Tick";
import { useSetup } from "./setupStore";

export interface SectionProps {
  setup: RenderSetup;
  facts: SceneFacts;
}

export function Rung({ title, says, children }: { title: string; says: string; children: ReactNode }) {
  return (
    <details className="group border-b border-line" name="set-up">
      <summary className="flex cursor-pointer items-baseline gap-2 px-3 py-2 hover:bg-well">
        <span className="w-20 shrink-0 font-semibold">{title}</span>
        <span className="min-w-0 flex-1 truncate text-soft group-open:invisible">{says}</span>
      </summary>
      <div className="space-y-1.5 px-3 pb-3">{children}</div>
    </details>
  );
}

export function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-20 shrink-0 text-soft">{label}</span>
      <div className="flex min-w-0 flex-1">{children}</div>
    </div>
  );
}

export function FramesRung({ setup, facts }: SectionProps) {
  const commit = useSetup((s) => s.commit);
  const whole = (name: keyof RenderSetup, min: number, max: number) => ({
    value: setup[name] as number,
    min,
    max,
    step: 1,
    digits: 0,
    onCommit: (value: number) => commit({ [name]: Math.round(value) }),
  });
  return (
    <Rung
      title="Frames"
      says={`${setup.width} x ${setup.height}, ${setup.first} to ${setup.last}, ${rateInWords(setup.rate)}`}
    >
      <Line label="Camera">
        <Choose
          name="Camera"
          value={setup.camera ?? facts.cameras[0] ?? "none"}
          options={facts.cameras.map((name) => ({ value: name, label: name }))}
          onChange={(camera) => commit({ camera })}
        />
      </Line>
      <div className="grid grid-cols-2 gap-x-3">
        <NumberField name="First" {...whole("first", -1e6, setup.last)} />
        <NumberField name="Last" {...whole("last", setup.first, setup.first + 99_999)} />
        <NumberField name="Width" {...whole("width", 1, 32768)} />
        <NumberField name="Height" {...whole("height", 1, 32768)} />
      </div>
      <Line label="Rate">
        <Choose
          name="Frames a second"
          value={setup.rate}
          options={[...new Set([setup.rate, "24", "24000/1001", "25", "30", "30000/1001", "50", "60"])].map(
            (rate) => ({
              value: rate,
              label: rateInWords(rate),
            }),
          )}
          onChange={(rate) => commit({ rate })}
        />
      </Line>
    </Rung>
  );
}

export function QualityRung({ setup }: SectionProps) {
  const { commit, sketch } = useSetup.getState();
  const draft = setup.use === "draft";
  return (
    <Rung title="Quality" says={draft ? "draft" : `final, ${setup.samples} rays a pixel`}>
      <Line label="Render">
        <Segments
          name="Preset"
          value={setup.use}
          choices={[
            { value: "draft", label: "Draft", tip: "Small, coarse and fast: good enough to try an alpha" },
            { value: "final", label: "Final", tip: "Full size, clean edges" },
          ]}
          onChange={(use) => commit({ use })}
        />
      </Line>
      <NumberField
        name={draft ? "Draft rays" : "Rays"}
        unit="/px"
        value={draft ? setup.draft.samples : setup.samples}
        min={1}
        max={4096}
        step={1}
        digits={0}
        rest={draft ? 2 : 16}
        onCommit={(value) =>
          commit(
            draft
              ? { draft: { ...setup.draft, samples: Math.round(value) } }
              : { samples: Math.round(value) },
          )
        }
      />
      <NumberField
        name="Noise limit"
        help="No more rays once the error is below this; 0 sends them all"
        value={setup.noise}
        min={0}
        max={1}
        step={0.005}
        rest={0}
        slider={[0, 0.1]}
        onDraft={(noise) => sketch({ noise })}
        onCommit={(noise) => commit({ noise })}
      />
      <Line label="Filter">
        <Segments
          name="Pixel filter"
          value={setup.pixel_filter}
          choices={[
            { value: "box", label: "Box", tip: "The pixel's square: passes add up exactly" },
            { value: "triangle", label: "Triangle" },
            { value: "gaussian", label: "Gaussian", tip: "Softer; reaches into neighbours" },
          ]}
          onChange={(pixel_filter) => commit({ pixel_filter })}
        />
      </Line>
    </Rung>
  );
}

export function AlphaRung({ setup }: SectionProps) {
  const commit = useSetup((s) => s.commit);
  const seen = setup.environment?.visible ?? false;
  const hex = hexOf(codeOfLight(setup.over));
  const says = seen
    ? "straight: the environment is in the RGB"
    : setup.alpha === "straight"
      ? "straight"
      : `premultiplied over ${hex === "#000000" ? "black" : hex}`;
  return (
    <Rung title="Alpha" says={says + (setup.refraction_in_alpha ? "" : ", glass opaque")}>
      {seen ? (
        <p className="text-soft">
          The environment is visible, so the RGB is mixed with a picture. No single colour can be taken out of
          it: it is read as straight.
        </p>
      ) : (
        <>
          <Line label="Stored">
            <Segments
              name="Alpha"
              value={setup.alpha}
              choices={[
                { value: "premultiplied", label: "Premultiplied" },
                {
                  value: "straight",
                  label: "Straight",
                  tip: "Light where alpha is 0, such as glare, is lost",
                },
              ]}
              onChange={(alpha) => commit(alpha === "straight" ? { alpha, over: [0, 0, 0] } : { alpha })}
            />
          </Line>
          {setup.alpha === "premultiplied" && (
            <Line label="Over">
              <input
                type="color"
                aria-label="Colour it is laid over"
                value={hex}
                onChange={(event) => {
                  const code = colourOf(event.target.value);
                  if (code) commit({ over: lightOfCode(code) });
                }}
                className="h-7 w-10 rounded border border-line bg-card p-0.5"
              />
              <span className="num ml-2 self-center text-soft">{hex}</span>
            </Line>
          )}
        </>
      )}
      <Tick
        label="What is behind shows through glass in the alpha"
        checked={setup.refraction_in_alpha}
        onChange={(refraction_in_alpha) => commit({ refraction_in_alpha })}
        help="Off: glass comes out opaque, with the environment painted into it"
      />
      {setup.catchers.length > 0 && (
        <Line label="Shadows">
          <Segments
            name="Caught shadows"
            value={setup.shadows}
            choices={[
              { value: "apart", label: "Apart", tip: "In the pass caught alone" },
              { value: "in-alpha", label: "In the alpha", tip: "As black in the beauty's alpha too" },
            ]}
            onChange={(shadows) => commit({ shadows })}
          />
        </Line>
      )}
    </Rung>
  );
}

export function LightRung({ setup, elements }: SectionProps & { elements: ElementOut[] }) {
  const { commit, sketch } = useSetup.getState();
  const around = setup.environment;
  const says = [
    setup.lights ? "lit" : "no lights",
    setup.indirect ? `${setup.bounces} bounces` : "direct only",
    around ? "environment" : "",
  ];
  return (
    <Rung title="Light" says={says.filter(Boolean).join(", ")}>
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
            name="Spark limit"
            help="Light that one indirect ray brings at most: against bright specks"
            value={setup.spark_limit}
            min={0.01}
            max={1e6}
            step={0.5}
            rest={10}
            onCommit={(spark_limit) => commit({ spark_limit })}
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
                picture === null ? null : { strength: 1, turn: 0, visible: false, ...around, picture },
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
            value={around.turn}
            min={-360}
            max={360}
            step={1}
            rest={0}
            slider={[-180, 180]}
            onDraft={(turn) => sketch({ environment: { ...around, turn } })}
            onCommit={(turn) => commit({ environment: { ...around, turn } })}
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
    </Rung>
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

export function LensRung({ setup }: SectionProps) {
  const { commit, sketch } = useSetup.getState();
  const { shutter, depth_of_field: blur, glare } = setup;
  const says = [
    shutter ? `shutter ${shutter.angle}°` : "",
    blur ? `sharp at ${blur.distance}` : "",
    glare ? "glare" : "",
  ].filter(Boolean);
  return (
    <Rung title="Lens" says={says.join(", ") || "sharp, no motion blur"}>
      <Tick
        label="Motion blur"
        checked={shutter !== null}
        onChange={(on) => commit({ shutter: on ? { angle: 180, opens: "around", moments: 8 } : null })}
      />
      {shutter && (
        <>
          <NumberField
            name="Shutter"
            unit="°"
            value={shutter.angle}
            min={1}
            max={720}
            step={5}
            rest={180}
            slider={[1, 360]}
            onDraft={(angle) => sketch({ shutter: { ...shutter, angle } })}
            onCommit={(angle) => commit({ shutter: { ...shutter, angle } })}
          />
          <NumberField
            name="Moments"
            help="Moments that the rays are shared out over"
            value={shutter.moments}
            min={2}
            max={64}
            step={1}
            digits={0}
            rest={8}
            onCommit={(moments) => commit({ shutter: { ...shutter, moments: Math.round(moments) } })}
          />
          <Line label="Opens">
            <Segments
              name="When the shutter opens"
              value={shutter.opens}
              choices={[
                { value: "around", label: "Around the frame", tip: "The frame's moment is the middle" },
                { value: "at", label: "At the frame" },
              ]}
              onChange={(opens) => commit({ shutter: { ...shutter, opens } })}
            />
          </Line>
        </>
      )}
      <Tick
        label="Depth of field"
        checked={blur !== null}
        onChange={(on) => commit({ depth_of_field: on ? { distance: 2, opening: 0.02 } : null })}
      />
      {blur && (
        <>
          <NumberField
            name="Sharp at"
            help="Distance along the camera's axis, in scene units"
            value={blur.distance}
            min={0.001}
            step={0.05}
            onCommit={(distance) => commit({ depth_of_field: { ...blur, distance } })}
          />
          <NumberField
            name="Opening"
            help="Diameter of the lens, in scene units"
            value={blur.opening}
            min={0.0001}
            max={100}
            step={0.005}
            rest={0.02}
            slider={[0.0001, 0.3]}
            onDraft={(opening) => sketch({ depth_of_field: { ...blur, opening } })}
            onCommit={(opening) => commit({ depth_of_field: { ...blur, opening } })}
          />
        </>
      )}
      <Tick
        label="Glare around bright light"
        checked={glare !== null}
        onChange={(on) => commit({ glare: on ? { strength: 0.1, size: 0.06, over: 1 } : null })}
        help="It reaches beyond every edge: light where alpha is 0"
      />
      {glare && (
        <>
          <NumberField
            name="Strength"
            value={glare.strength}
            min={0}
            max={10}
            rest={0.1}
            slider={[0, 1]}
            onDraft={(strength) => sketch({ glare: { ...glare, strength } })}
            onCommit={(strength) => commit({ glare: { ...glare, strength } })}
          />
          <NumberField
            name="Size"
            help="As a share of the frame's height"
            value={glare.size}
            min={0.001}
            max={1}
            rest={0.06}
            slider={[0.001, 0.4]}
            onDraft={(size) => sketch({ glare: { ...glare, size } })}
            onCommit={(size) => commit({ glare: { ...glare, size } })}
          />
          <NumberField
            name="Over"
            help="Light above which a pixel is bright"
            value={glare.over}
            min={0}
            max={1e6}
            step={0.1}
            rest={1}
            onCommit={(over) => commit({ glare: { ...glare, over } })}
          />
        </>
      )}
    </Rung>
  );
}
