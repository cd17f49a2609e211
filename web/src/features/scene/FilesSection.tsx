/** What files a render is written as. */
import type { RenderSetup } from "../../api/scenes";
import { Choose } from "../../ui/Choose";
import { NumberField } from "../../ui/NumberField";
import { Tick } from "../../ui/Tick";
import { Line, SetupSection } from "./sections";
import { useSetup } from "./setupStore";

type Form = RenderSetup["output"]["format"];

const FORMS: Record<Form, string> = {
  exr: "OpenEXR, all passes in one file",
  "exr-each": "OpenEXR, one sequence a pass",
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
    <SetupSection title="Files" says={FORMS[output.format]}>
      <Line label="Format">
        <Choose
          name="Format"
          value={output.format}
          options={Object.entries(FORMS).map(([value, label]) => ({ value, label }))}
          onChange={(form) => choose(form as Form)}
        />
      </Line>
      {codes ? (
        <p className="text-soft">
          Codes of 0 to 1 hold no light above 1. Motion, position and IDs cannot be held; encoded motion can.
        </p>
      ) : (
        <Line label="Packed">
          <Choose
            name="Compression"
            value={output.compression}
            options={["none", "zip", "zips", "piz"].map((value) => ({ value, label: value }))}
            onChange={(compression) => put({ compression: compression as typeof output.compression })}
          />
        </Line>
      )}
      {output.format.endsWith("8") && (
        <Tick
          label="Dithered"
          checked={output.dither}
          onChange={(dither) => put({ dither })}
          help="Rounded by lot, so that no bands appear"
        />
      )}
      {codes && deep && range && (
        <div className="grid grid-cols-2 gap-x-3">
          <NumberField
            name="Depth 0 at"
            value={range[0]}
            max={range[1]}
            step={0.5}
            onCommit={(near) => put({ depth_range: [near, range[1]] })}
          />
          <NumberField
            name="Depth 1 at"
            value={range[1]}
            min={range[0]}
            step={0.5}
            onCommit={(far) => put({ depth_range: [range[0], far] })}
          />
        </div>
      )}
      {apart && (
        <Tick
          label="Every lighting pass carries the alpha"
          checked={output.alpha_with_passes}
          onChange={(alpha_with_passes) => put({ alpha_with_passes })}
          help="As renderers often do; laid over each other such passes compound it"
        />
      )}
      {setup.passes.includes("motion_encoded") && (
        <NumberField
          name="Maximum motion"
          unit="px"
          help="Pixels a frame that the codes reach to"
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
