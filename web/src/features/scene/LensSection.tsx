/** What the lens does: motion blur, depth of field, glare. */
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import { Tick } from "../../ui/Tick";
import { SetupSection, type SectionProps } from "./sections";
import { useSetup } from "./setupStore";
import { Line } from "../../ui/Line";
import { text } from "./strings";

const t = text.LensSection;

export function LensSection({ setup }: SectionProps) {
  const { commit, sketch } = useSetup.getState();
  const { shutter, depth_of_field: blur, glare } = setup;
  const says = [
    shutter ? t.shutter2(shutter.angle) : "",
    blur ? t.sharpAt2(blur.distance) : "",
    glare ? "glare" : "",
  ].filter(Boolean);
  return (
    <SetupSection title={t.lens} says={says.join(", ") || t.sharpNoMotionBlur}>
      <Tick
        label={t.motionBlur}
        checked={shutter !== null}
        onChange={(on) => commit({ shutter: on ? { angle: 180, opens: "around", samples: 8 } : null })}
      />
      {shutter && (
        <>
          <NumberField
            name={t.shutter}
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
            name={t.shutterSamples}
            help={t.pointsInTimeOverWhich}
            value={shutter.samples}
            min={2}
            max={64}
            step={1}
            digits={0}
            rest={8}
            onCommit={(samples) => commit({ shutter: { ...shutter, samples: Math.round(samples) } })}
          />
          <Line label={t.opens}>
            <Segments
              name={t.whenTheShutterOpens}
              value={shutter.opens}
              choices={[
                { value: "around", label: t.aroundTheFrame, tip: t.theFramesMomentIsThe },
                { value: "at", label: t.atTheFrame },
              ]}
              onChange={(opens) => commit({ shutter: { ...shutter, opens } })}
            />
          </Line>
        </>
      )}
      <Tick
        label={t.depthOfField}
        checked={blur !== null}
        onChange={(on) => commit({ depth_of_field: on ? { distance: 2, aperture: 0.02 } : null })}
      />
      {blur && (
        <>
          <NumberField
            name={t.sharpAt}
            help={t.distanceAlongTheCamerasAxis}
            value={blur.distance}
            min={0.001}
            step={0.05}
            onCommit={(distance) => commit({ depth_of_field: { ...blur, distance } })}
          />
          <NumberField
            name={t.aperture}
            help={t.diameterOfTheLensOpening}
            value={blur.aperture}
            min={0.0001}
            max={100}
            step={0.005}
            rest={0.02}
            slider={[0.0001, 0.3]}
            onDraft={(aperture) => sketch({ depth_of_field: { ...blur, aperture } })}
            onCommit={(aperture) => commit({ depth_of_field: { ...blur, aperture } })}
          />
        </>
      )}
      <Tick
        label={t.glareAroundBrightLight}
        checked={glare !== null}
        onChange={(on) => commit({ glare: on ? { strength: 0.1, size: 0.06, over: 1 } : null })}
        help={t.itReachesBeyondEveryEdge}
      />
      {glare && (
        <>
          <NumberField
            name={t.strength}
            value={glare.strength}
            min={0}
            max={10}
            rest={0.1}
            slider={[0, 1]}
            onDraft={(strength) => sketch({ glare: { ...glare, strength } })}
            onCommit={(strength) => commit({ glare: { ...glare, strength } })}
          />
          <NumberField
            name={t.size}
            help={t.asAShareOfThe}
            value={glare.size}
            min={0.001}
            max={1}
            rest={0.06}
            slider={[0.001, 0.4]}
            onDraft={(size) => sketch({ glare: { ...glare, size } })}
            onCommit={(size) => commit({ glare: { ...glare, size } })}
          />
          <NumberField
            name={t.over}
            help={t.lightAboveWhichAPixel}
            value={glare.over}
            min={0}
            max={1e6}
            step={0.1}
            rest={1}
            onCommit={(over) => commit({ glare: { ...glare, over } })}
          />
        </>
      )}
    </SetupSection>
  );
}
