/** What the server is asked to draw of a comp, from what is looked at and the document as it stands. */
import type { CompAsk } from "../../api/pictures";
import { elementOf, layerOf, type CompDocument, type Layer } from "../../domain/comp";
import { shownAlone } from "../../domain/alone";
import type { Wanted } from "../../ui/Viewer";
import type { DeskState } from "./deskState";
import { paced } from "./draftPace";

/** What of the desk the picture depends on. */
export const ASKED = [
  "frame",
  "layer",
  "look",
  "extent",
  "extra_channel",
  "before",
  "playing",
  "tool",
  "matteShown",
  "alone",
] as const;
export type Looked = Pick<DeskState, (typeof ASKED)[number]>;

/** What to ask the server for, from what is looked at and the document as it stands. */
export function askFor(desk: Looked, wanted: Wanted, document: CompDocument, drafting: boolean): CompAsk {
  const chosen = layerOf(document, desk.layer);
  const extraChannel =
    desk.extent === "layer" && desk.extra_channel?.element === (chosen && elementOf(chosen))
      ? desk.extra_channel
      : null;
  return {
    frame: desk.frame,
    ...(drafting ? paced(wanted) : wanted),
    look: desk.look,
    quality: drafting || desk.playing ? "fast" : "exact",
    document: shownAlone(document, desk.alone),
    layer: chosen?.id ?? null,
    extent: chosen ? desk.extent : "comp",
    before: desk.before && !!chosen,
    extra_channel: extraChannel?.name ?? null,
    ...matteAsk(desk, chosen),
    passing: drafting,
  };
}

/** What is drawn: of the whole comp the chosen layer changes nothing, so choosing another draws nothing anew. */
export function drawnBy(ask: CompAsk): CompAsk {
  const { extent, before, matte, uncut } = ask;
  // extra channels are of the layer alone
  const ofLayer = extent !== "comp" || before || !!matte || !!uncut;
  return ofLayer ? ask : { ...ask, layer: null };
}

/** A matte alone over its layer; or the layer without its own, while that is made on it. */
function matteAsk(desk: Looked, chosen: Layer | undefined): Partial<CompAsk> {
  const { matteShown: shown, tool } = desk;
  if (shown && chosen?.id === shown.owner.layer)
    return { extent: "layer", before: false, matte: { step: shown.owner.step, part: shown.part } };
  const marking = tool?.kind === "regions" || tool?.kind === "screen";
  return marking && tool.owner.layer === chosen?.id ? { uncut: true } : {};
}
