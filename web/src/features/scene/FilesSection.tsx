/** What files a render is written as. */
import type { RenderSetup } from "../../api/scenes";
import { Choose } from "../../ui/Choose";
import { NumberField } from "../../ui/NumberField";
import { Tick } from "../../ui/Tick";
import { SetupSection } from "./sections";
import { useSetup } from "./setupStore";
import { Line } from "../../ui/Line";
import { text } from "./strings";

const t = text.FilesSection;

type Form = RenderSetup["output"]["format"];

const FORMS: Record<Form, string> = {
  exr: t.openexrAllPassesInOne,
  "exr-each": t.openexrOneSequenceAPass,
  png16: "PNG, 16 bits",
  png8: "PNG, 8 bits",
  tiff16: "TIFF, 16 bits",
  tiff8: "TIFF, 8 bits",
};

/** Passes that codes of 0 to 1 cannot hold: they go when such files are chosen. */
const FLOAT_ONLY = new Set(["motion", "position", "ids"]);

export function FilesSection({ setup }: { setup: RenderSetup }) {
  const commit = useSetup((s) => s.commit);
  const { output } = setup;
  const codes = !output.format.startsWith("exr");
  const apart = output.format !== "exr";
  const range = output.depth_range;
  const deep = setup.passes.some((p) => p.startsWith("depth"));
  const put = (part: Partial<RenderSetup["output"]>) => commit({ output: { ...output, ...part } });

  function choose(form: Form) {
    const held = form.startsWith("exr") ? setup.passes : setup.passes.filter((p) => !FLOAT_ONLY.has(p));
    const needsRange = !form.startsWith("exr") && deep && range === null;
    commit({
      passes: held.length > 0 ? held : ["beauty"],
      output: { ...output, format: form, depth_range: needsRange ? [0, 10] : range },
    });
  }

  return (
    <SetupSection title={t.files} says={FORMS[output.format]}>
      <Line label={t.format}>
        <Choose
          name={t.format}
          value={output.format}
          options={Object.entries(FORMS).map(([value, label]) => ({ value, label }))}
          onChange={(form) => choose(form as Form)}
        />
      </Line>
      {codes ? (
        <p className="text-soft">{t.codesOf0To1}</p>
      ) : (
        <Line label={t.packed}>
          <Choose
            name={t.compression}
            value={output.compression}
            options={["none", "zip", "zips", "piz"].map((value) => ({ value, label: value }))}
            onChange={(compression) => put({ compression: compression as typeof output.compression })}
          />
        </Line>
      )}
      {output.format.endsWith("8") && (
        <Tick
          label={t.dithered}
          checked={output.dither}
          onChange={(dither) => put({ dither })}
          help={t.roundedByLotSoThat}
        />
      )}
      {codes && deep && range && (
        <div className="grid grid-cols-2 gap-x-3">
          <NumberField
            name={t.depth0At}
            value={range[0]}
            max={range[1]}
            step={0.5}
            onCommit={(near) => put({ depth_range: [near, range[1]] })}
          />
          <NumberField
            name={t.depth1At}
            value={range[1]}
            min={range[0]}
            step={0.5}
            onCommit={(far) => put({ depth_range: [range[0], far] })}
          />
        </div>
      )}
      {apart && (
        <Tick
          label={t.everyLightingPassCarriesThe}
          checked={output.alpha_with_passes}
          onChange={(alpha_with_passes) => put({ alpha_with_passes })}
          help={t.asRenderersOftenDoLaid}
        />
      )}
      {setup.passes.includes("motion_encoded") && (
        <NumberField
          name={t.maximumMotion}
          unit="px"
          help={t.pixelsAFrameThatThe}
          value={setup.most_motion}
          min={0.01}
          max={1e6}
          step={1}
          rest={64}
          onCommit={(most_motion) => commit({ most_motion })}
        />
      )}
    </SetupSection>
  );
}
