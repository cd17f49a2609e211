/** What stands in for frames that are missing. */
import type { ElementOut } from "../../api/client";
import { Segments } from "../../ui/Segments";

type Gaps = ElementOut["gaps"];

export function GapsField({ value, onChange }: { value: Gaps; onChange: (value: Gaps) => void }) {
  return (
    <div className="mt-1.5 flex items-center gap-2">
      <span className="w-20 shrink-0 text-soft">missing ones</span>
      <Segments<Gaps>
        name="Missing frames"
        small
        value={value}
        choices={[
          { value: "error", label: "Error", tip: "An error where they are used" },
          { value: "hold", label: "Hold", tip: "The frame before stands in" },
          { value: "black", label: "Clear", tip: "Black and clear" },
        ]}
        onChange={onChange}
      />
    </div>
  );
}
