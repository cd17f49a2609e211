/** Routes of a patch: what they are and what they say. The same words as the core's. */
import { text } from "../strings";

const t = text.patchWords;

export interface Route {
  source: "own" | "second" | "constant";
  channel: string;
  inverted: boolean;
  gain: number;
  offset: number;
}

/** A channel as it is. */
export function plainRoute(source: Route["source"], channel: string): Route {
  return { source, channel, inverted: false, gain: 1, offset: 0 };
}

export type Output = "R" | "G" | "B" | "A";
export type Routes = Partial<Record<Output, Route>>;

export const OUTPUTS: Output[] = ["R", "G", "B", "A"];

/** What a source offers besides R, G, B, A; extra planes of an element come behind. */
export const MADE = ["luma", "hue", "lightness", "saturation", "cb", "cr", "min", "max"];

export const OUTPUT_TITLES: Record<string, [string, string, string]> = {
  rgb: ["red", "green", "blue"],
  hls: ["hue", "lightness", "saturation"],
  ycc: ["luma", "cb", "cr"],
};

/** What an output is when nothing is routed to it. */
export function restOf(output: Output, outputs: string): string {
  if (output === "A" || outputs === "rgb") return output;
  return OUTPUT_TITLES[outputs]![OUTPUTS.indexOf(output)]!;
}

const NAMES: Record<string, string> = { R: "red", G: "green", B: "blue", A: "alpha" };

export function routeInWords(route: Route, second: string): string {
  if (route.source === "constant") return route.channel;
  let text = NAMES[route.channel] ?? route.channel;
  if (route.source === "second") text += t.ofWord(second);
  if (route.inverted) text += ", inverted";
  if (route.gain !== 1) text += t.times(Number(route.gain.toFixed(3)));
  if (route.offset !== 0) text += t.plus(Number(route.offset.toFixed(3)));
  return text;
}

export function titleOfOutput(output: Output, outputs: string): string {
  return output === "A" ? "alpha" : OUTPUT_TITLES[outputs]![OUTPUTS.indexOf(output)]!;
}

/** What the whole patch does, a sentence an output. */
export function patchInWords(routes: Routes, outputs: string, second: string): string[] {
  return OUTPUTS.flatMap((output) => {
    const route = routes[output];
    if (!route) return [];
    return [t.from(titleOfOutput(output, outputs), routeInWords(route, second))];
  });
}

/** A click on an input: it is connected, or taken off where it was. */
export function withRoute(
  routes: Routes,
  output: Output,
  source: Route["source"],
  channel: string,
  outputs: string,
): Routes {
  const old = routes[output];
  const isRest = source === "own" && channel === restOf(output, outputs);
  const same = old?.source === source && old.channel === channel;
  const next = { ...routes };
  if (same || (isRest && (!old || (!old.inverted && old.gain === 1 && old.offset === 0))))
    return Object.fromEntries(Object.entries(next).filter(([o]) => o !== output));
  return {
    ...next,
    [output]: { ...plainRoute(source, channel), ...old, source, channel },
  };
}
