/** What a delivery is to be: a file format, its contents, and what its alpha and colours mean. */
import type { FormatOut } from "../api/client";
import type { TranscodeFormatOut } from "../api/elements";

export type DeliveryForm = FormatOut["form"];
export type Contents = DeliveryForm["contents"];

/** So few bits of a sample show bands in a gradient: dither is offered. */
export const FEW_BITS = 10;

/** Moving pictures of web pages, which are taken for sRGB. */
const OF_THE_WEB = [".apng", ".gif", ".webp"];

function usualEncoding(codec: TranscodeFormatOut): string {
  if (codec.floating) return "linear";
  return codec.kind === "movie" && !OF_THE_WEB.includes(codec.ending) ? "rec709" : "srgb";
}

/** The form with another file format: what that cannot hold is chosen otherwise. ``before``: the one it had. */
export function withCodec(
  form: DeliveryForm,
  before: TranscodeFormatOut,
  codec: TranscodeFormatOut,
): DeliveryForm {
  const changed = { ...form, codec: codec.name };
  if (codec.bits > FEW_BITS) changed.dither = "none";
  if (codec.compressions.every((c) => c.name !== form.compression)) changed.compression = "";
  if (codec.ending !== ".exr") Object.assign(changed, { tiles: false, multipart: false });
  // an encoding that was chosen by hand stays, but for light in whole numbers and codes in floats
  if (form.encoding === usualEncoding(before) || codec.floating !== (form.encoding === "linear"))
    changed.encoding = usualEncoding(codec);
  if (!codec.alpha && form.contents === "rgba")
    return { ...changed, contents: "rgb", alpha: "premultiplied" };
  return changed;
}

/** The ready format that says the same; null where parts were chosen otherwise. */
export function presetOf(form: DeliveryForm, formats: readonly FormatOut[]): FormatOut | null {
  const same = (other: DeliveryForm) =>
    (Object.keys(form) as (keyof DeliveryForm)[]).every(
      (key) => JSON.stringify(form[key]) === JSON.stringify(other[key]),
    );
  return formats.find((f) => same(f.form)) ?? null;
}

/** Which file formats say by their own standard how alpha is meant. */
const MEANS: Record<string, DeliveryForm["alpha"]> = { ".png": "straight", ".exr": "premultiplied" };

/** Whether a program that goes by the format's standard would read the alpha otherwise than it is written. */
export function againstStandard(form: DeliveryForm, codec: TranscodeFormatOut): boolean {
  const means = codec.kind === "frames" ? MEANS[codec.ending] : undefined;
  return form.contents === "rgba" && means !== undefined && means !== form.alpha;
}
