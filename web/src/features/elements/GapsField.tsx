/** What stands in for frames that are missing. */
import type { ElementOut } from "../../api/client";
import { Segments } from "../../ui/Segments";
import { text } from "./strings";

const t = text.GapsField;

type Gaps = ElementOut["gaps"];

export function GapsField({ value, onChange }: { value: Gaps; onChange: (value: Gaps) => void }) {
  return (
    <div className="mt-1.5 flex items-center gap-2">
      <span className="w-20 shrink-0 text-soft">{t.missingOnes}</span>
      <Segments<Gaps>
        name={t.missingFrames}
        small
        value={value}
        choices={[
          { value: "error", label: t.error, tip: t.anErrorWhereTheyAre },
          { value: "hold", label: t.hold, tip: t.theFrameBeforeStandsIn },
          { value: "black", label: t.clear, tip: t.blackAndClear },
        ]}
        onChange={onChange}
      />
    </div>
  );
}
