/** A colour encoding's name is a transfer, and its primaries where they are not BT.709's: "srgb@p3-d65". */

export const TRANSFERS = [
  { value: "srgb", label: "sRGB" },
  { value: "rec709", label: "BT.709 camera curve" },
  { value: "linear", label: "Linear light" },
  { value: "gamma1.8", label: "Gamma 1.8" },
  { value: "gamma2.2", label: "Gamma 2.2" },
  { value: "gamma2.4", label: "Gamma 2.4" },
  { value: "pq", label: "PQ" },
  { value: "hlg", label: "HLG" },
  { value: "density", label: "Printing density" },
];

/** As files go out: PQ and HLG with the primaries that BT.2100 gives them. */
export const WRITTEN = TRANSFERS.map((o) =>
  ["pq", "hlg"].includes(o.value) ? { value: `${o.value}@bt2020`, label: `${o.label}, BT.2020` } : o,
);

export const PRIMARIES = [
  { value: "bt709", label: "BT.709 / sRGB" },
  { value: "p3-d65", label: "P3, white D65" },
  { value: "bt2020", label: "BT.2020" },
  { value: "oprgb", label: "opRGB" },
  { value: "romm", label: "ROMM RGB" },
  { value: "ap0", label: "AP0" },
  { value: "ap1", label: "AP1" },
];

export interface EncodingParts {
  transfer: string;
  primaries: string;
}

/** A space or a view of an OpenColorIO configuration: "cg/ACEScct". */
export const isSpace = (name: string) => name.includes("/");

export function partsOfEncoding(name: string): EncodingParts {
  if (isSpace(name)) return { transfer: name, primaries: "bt709" };
  const [transfer = "srgb", primaries = "bt709"] = name.split("@");
  return { transfer, primaries };
}

export function encodingOf({ transfer, primaries }: EncodingParts): string {
  return primaries === "bt709" || isSpace(transfer) ? transfer : `${transfer}@${primaries}`;
}

const labelOf = (list: typeof TRANSFERS, value: string) => list.find((o) => o.value === value)?.label;

export function transferInWords(transfer: string): string {
  if (isSpace(transfer)) return transfer.slice(transfer.indexOf("/") + 1).replace("|", ", ");
  return labelOf(TRANSFERS, transfer) ?? transfer.replace("gamma", "Gamma ");
}

export function encodingInWords(name: string): string {
  const { transfer, primaries } = partsOfEncoding(name);
  const words = transferInWords(transfer);
  return primaries === "bt709" ? words : `${words}, ${labelOf(PRIMARIES, primaries) ?? primaries}`;
}
