/** Views and comparing in one bar over the picture. */
import { SquareSplitHorizontal } from "lucide-react";
import { memo } from "react";
import { LookBar } from "../../parts/LookBar";
import { Button, SignButton } from "../../ui/basics";
import { Segments } from "../../ui/Segments";
import { Choose } from "../../ui/Choose";
import { useDeskFields } from "./deskState";
import { useExtraChannels } from "./steps/useExtraChannels";

const PICTURE = "picture";

export const ViewBar = memo(function ViewBar({
  element,
  hasSteps,
}: {
  /** Of the chosen layer. */
  element: string | null;
  hasSteps: boolean;
}) {
  const desk = useDeskFields(
    "look",
    "extent",
    "extra_channel",
    "before",
    "matteShown",
    "compare",
    "drawing",
    "mark",
    "set",
  );
  const extraChannels = useExtraChannels(element ?? undefined);
  return (
    <div className="flex flex-wrap items-center gap-x-2.5 gap-y-1.5 border-b border-line bg-card px-3 py-1.5">
      <LookBar look={desk.look} onLook={(look) => desk.set({ look })} />
      {element !== null && (
        <>
          <Segments
            name="How much of the comp"
            value={desk.matteShown ? "layer" : desk.extent}
            choices={[
              { value: "comp", label: "Comp", tip: "The whole comp" },
              { value: "upto", label: "Up to layer", tip: "All layers from the plate up to the chosen one" },
              { value: "layer", label: "Layer", tip: "The chosen layer alone, as it lies in the comp" },
            ]}
            onChange={(extent) => desk.set({ extent, matteShown: null })}
          />
          <Button
            aria-pressed={desk.before}
            title={
              hasSteps ? "The chosen layer without its steps (B)" : "The comp without the chosen layer (B)"
            }
            onClick={() => desk.set({ before: !desk.before })}
            className={desk.before ? "border-accent bg-accent-soft text-accent" : ""}
          >
            Before steps
          </Button>
          {/* it keeps its room, so that the picture keeps its size when the layer alone is looked at */}
          {extraChannels.length > 0 && (
            <span className={`flex w-36 ${desk.extent === "layer" ? "" : "invisible"}`}>
              <Choose
                name="Channel of the layer"
                live
                value={desk.extra_channel?.element === element ? desk.extra_channel.name : PICTURE}
                options={[
                  { value: PICTURE, label: "the picture" },
                  ...extraChannels.map((name) => ({ value: name, label: name })),
                ]}
                onChange={(name) => desk.set({ extra_channel: name === PICTURE ? null : { element, name } })}
              />
            </span>
          )}
        </>
      )}
      <SignButton
        name="Compare two looks (C)"
        aria-pressed={desk.compare.how !== "off"}
        className={`ml-auto ${desk.compare.how !== "off" ? "bg-accent-soft text-accent" : ""}`}
        onClick={() =>
          desk.set({ compare: { ...desk.compare, how: desk.compare.how === "off" ? "wipe" : "off" } })
        }
      >
        <SquareSplitHorizontal className="size-4" />
      </SignButton>
    </div>
  );
});
