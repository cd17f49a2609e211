/** What is shown of a picture, and what it lies over. */
import type { Look } from "../api/pictures";
import { colourOf, hexOf } from "../domain/words";
import { Segments } from "../ui/Segments";
import { text } from "./strings";

const t = text.LookBar;

const CHANNELS = [
  { value: "colour", label: t.colour, tip: t.overTheBackground1 },
  { value: "rgb", label: t.rgb, tip: t.ignoringAlpha2 },
  { value: "alpha", label: t.alpha, tip: t.alphaAloneAsGrey3 },
  { value: "red", label: <span className="text-red">R</span>, tip: t.redAlone4 },
  { value: "green", label: <span className="text-green">G</span>, tip: t.greenAlone5 },
  { value: "blue", label: <span className="text-blue">B</span>, tip: t.blueAlone6 },
  { value: "straight", label: t.straight, tip: t.surfaceColourCA7 },
  { value: "luma", label: t.luma, tip: t.lumaBt709Weights8 },
  { value: "band", label: t.edgeBand, tip: t.onlyWhereTheAlphaLies },
  { value: "tint", label: t.matteTint, tip: t.aColourOverWhatThe },
] as const;

export const CHANNEL_KEYS = CHANNELS.map((c) => c.value);

const BACKGROUNDS = [
  { value: "checks", label: t.checks },
  { value: "black", label: t.black },
  { value: "white", label: t.white },
  { value: "colour", label: t.colour },
] as const;

export const FIRST_LOOK: Look = { channel: "colour", background: "checks", colour: [0, 0.6, 0.3] };

export function LookBar({ look, onLook }: { look: Look; onLook: (look: Look) => void }) {
  return (
    <>
      <Segments
        name={t.show}
        tight
        value={look.channel}
        choices={[...CHANNELS]}
        onChange={(channel) => onLook({ ...look, channel })}
      />
      <span className="flex items-center gap-1.5">
        <span className="text-soft">{t.over}</span>
        <Segments
          name={t.background}
          tight
          value={look.background}
          choices={[...BACKGROUNDS]}
          onChange={(background) => onLook({ ...look, background })}
        />
        {look.background === "colour" && (
          <input
            type="color"
            aria-label={t.backgroundColour}
            value={hexOf(look.colour)}
            onChange={(event) => onLook({ ...look, colour: colourOf(event.target.value) ?? look.colour })}
            className="h-7 w-8 rounded border border-line bg-card p-0.5"
          />
        )}
      </span>
    </>
  );
}
