/** Pictures from the server: JPEG while something moves, raw R, G, B, 255 bytes when exact. */
import { ApiProblem, csrfToken, problemOf, type Problem } from "./client";
import { lineOf, type PassingAsk } from "./passing";
import type { components } from "./schema";
import { text } from "./strings";

const t = text.pictures;

export type Look = Required<components["schemas"]["Look"]>;
export type Quality = "fast" | "exact";
export type CompAsk = components["schemas"]["CompShown"];
export type ElementAsk = components["schemas"]["ElementShown"];
export type Ask = CompAsk | ElementAsk | components["schemas"]["DraftShown"];

export interface Drawn {
  image: ImageBitmap | ImageData;
  /** x0, y0, x1, y1 in pixels of the asked level. */
  region: [number, number, number, number];
  /** Width and height of the whole frame at that level. */
  frame: [number, number];
  milliseconds: number;
  /** Layers that could not be drawn and were left out. */
  problems: Problem[];
}

/** This page among all that look: a newer request of it ends an older one on the server. */
export const VIEWER = crypto.randomUUID();
let sequence = 0;

/** The picture that is asked for: on the line of its comp while something is dragged, else by HTTP. */
export async function fetchPicture(
  address: string,
  ask: Ask,
  signal: AbortSignal,
  purpose: string,
): Promise<Drawn> {
  sequence += 1;
  const viewer = purpose ? `${VIEWER}-${purpose}` : "";
  const line = isPassing(ask) ? lineOf(address) : null;
  if (line?.open) {
    try {
      return await line.draw({ ...(ask as PassingAsk), viewer, sequence }, signal);
    } catch {
      // by HTTP, which also tells what was wrong with it
      if (ended(signal)) throw cancelled();
    }
  }
  return fetchByHttp(address, { ...ask, viewer, sequence }, signal);
}

const cancelled = () => new ApiProblem(499, { code: "cancelled", message: "", advice: "", where: "" });

/** Ended by us, not by the time that it took. */
const ended = (signal: AbortSignal) => signal.aborted && (signal.reason as Error).name === "AbortError";

const isPassing = (ask: Ask) =>
  "passing" in ask && !!ask.passing && !!ask.document?.layers && !ask.against && ask.row == null;

async function fetchByHttp(address: string, ask: object, signal: AbortSignal): Promise<Drawn> {
  const begun = performance.now();
  const response = await fetch(address, {
    method: "POST",
    signal,
    credentials: "same-origin",
    headers: { "Content-Type": "application/json", "X-CSRFToken": csrfToken() },
    body: JSON.stringify(ask),
  }).catch((error: unknown) => {
    throw ended(signal) ? cancelled() : error;
  });
  if (!response.ok) throw problemOf(response.status, await response.json().catch(() => null));
  const numbers = (name: string) => (response.headers.get(name) ?? "").split(",").map(Number);
  const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = numbers("X-Region");
  const [w = 0, h = 0] = numbers("X-Frame-Size");
  const image = await decode(response, x1 - x0, y1 - y0);
  const milliseconds = performance.now() - begun;
  return { image, region: [x0, y0, x1, y1], frame: [w, h], milliseconds, problems: problemsIn(response) };
}

function problemsIn(response: Response): Problem[] {
  const told = response.headers.get("X-Problems");
  return told ? (JSON.parse(decodeURIComponent(told)) as Problem[]) : [];
}

async function decode(response: Response, width: number, height: number): Promise<ImageBitmap | ImageData> {
  if (response.headers.get("Content-Type") === "image/jpeg") return createImageBitmap(await response.blob());
  const bytes = new Uint8ClampedArray(await response.arrayBuffer());
  if (bytes.length !== width * height * 4 || bytes.length === 0) {
    throw new ApiProblem(0, {
      code: "cut-off",
      message: t.thePictureWasCutOff,
      advice: t.tryAgain,
      where: "",
    });
  }
  return new ImageData(bytes, width, height);
}
