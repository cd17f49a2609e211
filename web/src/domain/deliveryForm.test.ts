import { describe, expect, it } from "vitest";
import type { FormatOut } from "../api/client";
import type { TranscodeFormatOut } from "../api/elements";
import { againstStandard, presetOf, withCodec, type DeliveryForm } from "./deliveryForm";

const form: DeliveryForm = {
  codec: "png16",
  contents: "rgba",
  alpha: "straight",
  matte: [0, 0, 0],
  multiplied: "linear",
  encoding: "srgb",
  past_edge: 8,
  compression: "",
  tiles: false,
  multipart: false,
  dither: "none",
  light: "lost",
};
const codec = (row: Partial<TranscodeFormatOut>) =>
  ({
    name: "x",
    kind: "frames",
    alpha: true,
    floating: false,
    ending: ".png",
    compressions: [],
    ...row,
  }) as TranscodeFormatOut;

describe("a delivery's form", () => {
  it("is sRGB where web pages show it, and BT.709 in other movies", () => {
    const to = (ending: string) =>
      withCodec(form, codec({}), codec({ kind: "movie", ending, bits: 8 })).encoding;
    expect([".mov", ".mp4", ".apng", ".gif", ".webp"].map(to)).toEqual([
      "rec709",
      "rec709",
      "srgb",
      "srgb",
      "srgb",
    ]);
  });

  it("drops what another file format cannot hold, and keeps an encoding that was chosen by hand", () => {
    const viewing = withCodec(
      form,
      codec({}),
      codec({ name: "h264", kind: "movie", alpha: false, bits: 8, ending: ".mp4" }),
    );
    expect(viewing).toMatchObject({
      codec: "h264",
      contents: "rgb",
      alpha: "premultiplied",
      encoding: "rec709",
    });
    expect(withCodec(form, codec({}), codec({ floating: true })).encoding).toBe("linear");
    expect(withCodec({ ...form, dither: "stable" }, codec({}), codec({ bits: 16 })).dither).toBe("none");
    const piz = { name: "piz", label: "PIZ", mean: 0 };
    const packed = { ...form, compression: "piz" };
    expect(withCodec(packed, codec({}), codec({ compressions: [piz] })).compression).toBe("piz");
    expect(withCodec(packed, codec({ compressions: [piz] }), codec({})).compression).toBe("");
    const light = { ...form, encoding: "linear" };
    expect(withCodec(light, codec({ floating: true }), codec({ kind: "movie" })).encoding).toBe("rec709");
    const own = withCodec({ ...form, encoding: "gamma2.4" }, codec({}), codec({ kind: "movie" }));
    expect(own.encoding).toBe("gamma2.4");
  });

  it("is a ready one only where all of it is the same", () => {
    const formats = [{ name: "png16-straight", form }] as FormatOut[];
    expect(presetOf({ ...form }, formats)?.name).toBe("png16-straight");
    expect(presetOf({ ...form, past_edge: 0 }, formats)).toBeNull();
  });

  it("says where a format's own standard means another alpha", () => {
    expect(againstStandard(form, codec({}))).toBe(false);
    expect(againstStandard({ ...form, alpha: "premultiplied" }, codec({}))).toBe(true);
    expect(againstStandard(form, codec({ ending: ".exr" }))).toBe(true);
    expect(againstStandard({ ...form, contents: "rgb" }, codec({ ending: ".exr" }))).toBe(false);
  });
});
