/** What a proof found, in words: for the delivery's card and for the proof as a page. */
import type { DeliveryOut } from "../../api/client";
import { counted, secondsInWords } from "../../domain/words";
import { text } from "./strings";

const t = text.proofFacts;

/** Each with what it is; of a delivery that has its proof. */
export function factsOf(row: DeliveryOut): [string, string][] {
  const proof = row.proof!;
  return [
    [
      t.frames,
      t.ofWord(
        proof.frames_found,
        proof.frames_meant,
        proof.missing.length ? t.missing(proof.missing.join(", ")) : t.noneMissing,
      ),
    ],
    [
      t.rate,
      proof.rate_found
        ? t.foundMeant(proof.rate_found, proof.rate_meant ?? row.rate)
        : t.framesHoldNone(row.rate),
    ],
    [t.alphaRange, t.to(proof.alpha_low.toFixed(4), proof.alpha_high.toFixed(4))],
    [
      t.largestError,
      t.colourAlpha(
        errorInWords(row, proof.colour_error),
        errorInWords(row, proof.alpha_error),
        proof.worst_frame === null ? "" : t.frame(proof.worst_frame),
      ),
    ],
    [t.lightLost, proof.lost_light ? t.withLightAtAlpha0(counted(proof.lost_light, "pixel")) : t.none],
    [t.clipped, proof.clipped ? t.outside0To1(counted(proof.clipped, "pixel")) : t.none],
  ];
}

/** Light has no top: an error in it is told as it is, one in code values against 255. */
export function errorInWords(row: DeliveryOut, value: number): string {
  return row.encoding === "linear" ? t.inLight(value.toFixed(5)) : t.of255((value * 255).toFixed(3));
}

/** The first and the last number, and how many where some are left out. */
export function framesInWords({ first, last, frames }: DeliveryOut): string {
  if (first === last) return t.frameAlone(first);
  const range = t.framesTo(first, last);
  return frames === last - first + 1 ? range : t.framesOf(frames, range);
}

/** Its format, and the layers in the file. */
export const formInWords = (row: DeliveryOut): string =>
  t.as(row.format_title, new Set(row.take.layers.map((l) => l.split(":")[0])).size);

const WHEN = new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeStyle: "short" });

/** Who ordered it and when, and how long it took. */
export function historyInWords({ person, ordered, ended }: DeliveryOut["job"]): string {
  const by = t.orderedBy(person ?? t.somebodyGone, WHEN.format(new Date(ordered)));
  if (!ended) return by;
  return by + t.after(secondsInWords((Date.parse(ended) - Date.parse(ordered)) / 1000));
}
