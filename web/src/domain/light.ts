/** Code values and light of colours that are typed or picked. Source: IEC 61966-2-1, sRGB. */

type Colour = [number, number, number];

export function lightOfCode(code: readonly number[]): Colour {
  return code.map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)) as Colour;
}

export function codeOfLight(light: readonly number[]): Colour {
  return light.map((v) => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055)) as Colour;
}
