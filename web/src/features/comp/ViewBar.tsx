/** Views and comparing in one bar over the picture. */
import { SquareSplitHorizontal } from "lucide-react";
import { memo } from "react";
import { LookBar } from "../../parts/LookBar";
import { Button, SignButton } from "../../ui/basics";
import { Segments } from "../../ui/Segments";
import { Choose } from "../../ui/Choose";
import { useDeskFields } from "./deskState";
import { useExtraChannels } from "./steps/useExtraChannels";
import { text } from "./strings";

const t = text.ViewBar;

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
  const extraChannels = useExtraChannels(element ? [element] : []);
  return (
    <div className="flex flex-wrap items-center gap-x-2.5 gap-y-1.5 border-b max-[1400px]:gap-x-1.5 border-line bg-card px-3 py-1.5">
      <LookBar look={desk.look} onLook={(look) => desk.set({ look })} />
      {element !== null && (
        <>
          <Segments
            name={t.howMuchOfTheComp}
            value={desk.matteShown ? "layer" : desk.extent}
            choices={[
              { value: "comp", label: t.comp, tip: t.theWholeComp },
              { value: "upto", label: t.upToLayer, tip: t.allLayersFromThePlate },
              { value: "layer", label: t.layer, tip: t.theChosenLayerAloneAs },
            ]}
            onChange={(extent) => desk.set({ extent, matteShown: null })}
          />
          <Button
            aria-pressed={desk.before}
            title={hasSteps ? t.theChosenLayerWithoutIts : t.theCompWithoutTheChosen}
            onClick={() => desk.set({ before: !desk.before })}
            className={desk.before ? "border-accent bg-accent-soft text-accent" : ""}
          >
            {t.beforeSteps}
          </Button>
          {/* it keeps its room, so that the picture keeps its size when the layer alone is looked at */}
          {extraChannels.length > 0 && (
            <span className={`flex w-36 max-[1400px]:w-28 ${desk.extent === "layer" ? "" : "invisible"}`}>
              <Choose
                name={t.channelOfTheLayer}
                live
                value={desk.extra_channel?.element === element ? desk.extra_channel.name : PICTURE}
                options={[
                  { value: PICTURE, label: t.thePicture },
                  ...extraChannels.map((name) => ({ value: name, label: name })),
                ]}
                onChange={(name) => desk.set({ extra_channel: name === PICTURE ? null : { element, name } })}
              />
            </span>
          )}
        </>
      )}
      <SignButton
        name={t.compareTwoLooksC}
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
