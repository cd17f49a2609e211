/** Numbers and facts in words. */
import type { Full } from "../api/full";
import type { components } from "../api/schema";
import type { Reading } from "./comp";

type Facts = Full<components["schemas"]["Facts"]>;

export function bytesInWords(bytes: number): string {
  const units = ["bytes", "kB", "MB", "GB", "TB"];
  let value = bytes;
  let unit = 0;
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000;
    unit += 1;
  }
  return `${unit === 0 ? value : value.toFixed(value < 10 ? 1 : 0)} ${units[unit]}`;
}

export function secondsInWords(seconds: number): string {
  if (seconds < 1) return "less than 1 s";
  if (seconds < 90) return `${Math.round(seconds)} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  return `${(seconds / 3600).toFixed(1)} h`;
}

/** 24000/1001 stays what it is; its decimal stands beside it. */
export function rateInWords(rate: string): string {
  const [top = 0, bottom = 1] = rate.split("/").map(Number);
  return bottom === 1 ? `${top} fps` : `${rate} (${(top / bottom).toFixed(3)}) fps`;
}

export function ratePerSecond(rate: string): number {
  const [top = 25, bottom = 1] = rate.split("/").map(Number);
  return top / bottom;
}

export const ALPHA_USE: Record<Facts["alpha_use"], string> = {
  none: "none",
  opaque: "there, opaque everywhere",
  empty: "there, clear everywhere",
  used: "there and used",
  unknown: "not looked at",
};

export function hexOf(colour: readonly number[]): string {
  return `#${colour
    .map((v) =>
      Math.round(Math.max(0, Math.min(1, v)) * 255)
        .toString(16)
        .padStart(2, "0"),
    )
    .join("")}`;
}

export function colourOf(hex: string): [number, number, number] | null {
  const match = /^#?([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(hex.trim());
  if (!match) return null;
  return [1, 2, 3].map((i) => parseInt(match[i]!, 16) / 255) as [number, number, number];
}

/** As the server says it on cards. */
export function readingInWords(reading: Reading): string {
  if (reading.alpha === "none") return "alpha ignored";
  let text: string = reading.alpha;
  if (reading.alpha === "premultiplied") {
    const hex = hexOf(reading.matte);
    text += ` over ${hex === "#000000" ? "black" : hex === "#ffffff" ? "white" : hex}`;
    if (reading.multiplied === "encoded") text += " in encoded values";
  }
  return text + (reading.inverted ? ", alpha inverted" : "");
}

export function trimmed(value: number, digits = 3): string {
  return String(Number(value.toFixed(digits)));
}

/** One thing, or how many. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count.toLocaleString("en")} ${count === 1 ? one : many}`;
}

/** What is unlike in the facts of two files, as "size, where the older has other size". */
export function differencesInWords(older: Facts, newer: Facts): string[] {
  const told: [string, (f: Facts) => string][] = [
    ["pixels", (f) => `${f.width} × ${f.height}`],
    ["frames", (f) => (f.kind === "still" ? "a still" : `${f.last - f.first + 1}`)],
    ["rate", (f) => (f.rate ? rateInWords(f.rate) : "no rate")],
    ["alpha", (f) => (f.alpha ? "an alpha" : "no alpha")],
  ];
  return told
    .map(([name, of]) => [name, of(newer), of(older)] as const)
    .filter(([, now, before]) => now !== before)
    .map(([name, now, before]) =>
      `${now} ${/^(an? |no )/.test(now) ? "" : name} instead of ${before}`.replace("  ", " "),
    );
}

const SPANS: [Intl.RelativeTimeFormatUnit, number][] = [
  ["year", 31_557_600],
  ["month", 2_629_800],
  ["week", 604_800],
  ["day", 86_400],
  ["hour", 3600],
  ["minute", 60],
];

/** How long before ``now``, in milliseconds, something was: "3 hours ago". */
export function agoInWords(at: string, now: number): string {
  const seconds = Math.max(0, (now - Date.parse(at)) / 1000);
  const [unit, length] = SPANS.find(([, s]) => seconds >= s) ?? ["second", 0];
  if (length === 0) return "just now";
  return new Intl.RelativeTimeFormat("en").format(-Math.floor(seconds / length), unit);
}
