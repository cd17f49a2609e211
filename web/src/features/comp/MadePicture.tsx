/** A layer made here at a glance: a sign for what it is, on its colour. */
import { Blend, Grid2x2, Layers, Rainbow, Shapes, Square, SunMedium, Target, Type } from "lucide-react";
import { codeOfLight } from "../../domain/light";
import type { Made } from "../../domain/comp";
import { hexOf } from "../../domain/words";

const SIGNS: Record<string, typeof Type> = {
  text: Type,
  beneath: Layers,
  shape: Shapes,
  solid: Square,
  gradient: Blend,
  bars: Rainbow,
  ramp: SunMedium,
  zone_plate: Target,
  checkerboard: Grid2x2,
};

interface Props {
  made: Made;
  /** Its kind, whatever a text says. */
  plain?: boolean;
  /** In a line of text: its sign alone, small. */
  tiny?: boolean;
  className?: string;
}

export function MadePicture({ made, plain = false, tiny = false, className = "" }: Props) {
  const Sign = SIGNS[made.kind] ?? Square;
  const said = "text" in made && !plain && !tiny ? made.text.trim() : "";
  return (
    <span className={`relative grid place-items-center overflow-hidden bg-surround ${className}`}>
      {said ? (
        <span className="max-h-full px-1 text-center leading-tight break-words text-white">{said}</span>
      ) : (
        <Sign aria-hidden className={`${tiny ? "mb-1 size-4" : "size-6"} text-white`} />
      )}
      {"colour" in made && (
        <span
          aria-hidden
          className={`absolute inset-x-0 bottom-0 ${tiny ? "h-1" : "h-1.5"}`}
          style={{ background: hexOf(codeOfLight(made.colour)) }}
        />
      )}
    </span>
  );
}
