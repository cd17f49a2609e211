/** What is shown of a picture, and what it lies over. */
import type { Look } from "../api/pictures";
import { colourOf, hexOf } from "../domain/words";
import { Segments } from "../ui/Segments";

const CHANNELS = [
  { value: "colour", label: "Colour", tip: "Over the background (1)" },
  { value: "rgb", label: "RGB", tip: "Ignoring alpha (2)" },
  { value: "alpha", label: "Alpha", tip: "Alpha alone, as grey (3)" },
  { value: "red", label: <span className="text-red">R</span>, tip: "Red alone (4)" },
  { value: "green", label: <span className="text-green">G</span>, tip: "Green alone (5)" },
  { value: "blue", label: <span className="text-blue">B</span>, tip: "Blue alone (6)" },
  { value: "straight", label: "Straight", tip: "Surface colour: C / a (7)" },
  { value: "luma", label: "Luma", tip: "Luma, BT.709 weights (8)" },
  { value: "band", label: "Edge band", tip: "Only where the alpha lies between 0 and 1 (9)" },
  { value: "tint", label: "Matte tint", tip: "A colour over what the alpha removes (0)" },
] as const;

export const CHANNEL_KEYS = CHANNELS.map((c) => c.value);

const BACKGROUNDS = [
  { value: "checks", label: "Checks" },
  { value: "black", label: "Black" },
  { value: "white", label: "White" },
  { value: "colour", label: "Colour" },
] as const;

export const FIRST_LOOK: Look = { channel: "colour", background: "checks", colour: [0, 0.6, 0.3] };

export function LookBar({ look, onLook }: { look: Look; onLook: (look: Look) => void }) {
  return (
    <>
      <Segments
        name="Show"
        tight
        value={look.channel}
        choices={[...CHANNELS]}
        onChange={(channel) => onLook({ ...look, channel })}
      />
      <span className="flex items-center gap-1.5">
        <span className="text-soft">over</span>
        <Segments
          name="Background"
          tight
          value={look.background}
          choices={[...BACKGROUNDS]}
          onChange={(background) => onLook({ ...look, background })}
        />
        {look.background === "colour" && (
          <input
            type="color"
            aria-label="Background colour"
            value={hexOf(look.colour)}
            onChange={(event) => onLook({ ...look, colour: colourOf(event.target.value) ?? look.colour })}
            className="h-7 w-8 rounded border border-line bg-card p-0.5"
          />
        )}
      </span>
    </>
  );
}
