/**
 * The line on which a comp's pictures come while something of it is dragged: the document is sent once,
 * then only the outermost layers that have changed since. Without it, as behind a proxy that lets no
 * WebSocket through, they come by HTTP as all others do, only later.
 */
import { deepEqual } from "fast-equals";
import { ApiProblem, type Problem } from "./client";
import type { CompAsk, Drawn } from "./pictures";

type Document = NonNullable<CompAsk["document"]>;
type Layers = NonNullable<Document["layers"]>;
/** A picture that comes on a line, by whom and as which of theirs it is asked. */
export type PassingAsk = CompAsk & { document: Document; viewer: string; sequence: number };

/** What an answer begins with. */
interface Head {
  number: number;
  region: [number, number, number, number];
  frame: [number, number];
  problems: Problem[];
  status?: number;
  problem?: Problem;
}

interface Waiting {
  begun: number;
  resolve: (drawn: Drawn) => void;
  reject: (error: unknown) => void;
}

/** Milliseconds after which a line that broke is tried again. */
const AGAIN = 10_000;

export class PassingLine {
  private socket: WebSocket | null = null;
  private broke = -AGAIN;
  private number = 0;
  private base: { number: number; document: Document } | null = null;
  private readonly waiting = new Map<number, Waiting>();

  constructor(private readonly address: string) {}

  /** Whether a picture can be asked for on it now; where not, it is being opened. */
  get open(): boolean {
    if (this.socket === null && performance.now() - this.broke >= AGAIN) this.connect();
    return this.socket?.readyState === WebSocket.OPEN;
  }

  draw(ask: PassingAsk, signal: AbortSignal): Promise<Drawn> {
    const number = (this.number += 1);
    return new Promise<Drawn>((resolve, reject) => {
      this.waiting.set(number, { begun: performance.now(), resolve, reject });
      signal.addEventListener("abort", () => {
        if (this.waiting.delete(number)) reject(signal.reason as Error);
      });
      this.socket!.send(JSON.stringify({ number, ...this.told(ask) }));
    });
  }

  close(): void {
    this.socket?.close();
  }

  /** The ask with the whole document, or with those layers that are others than in the last whole one. */
  private told({ document, ...ask }: PassingAsk) {
    const changed = this.base && changedLayers(this.base.document, document);
    if (this.base && changed && changed.length * 2 <= document.layers!.length + 1)
      return { ask, base: this.base.number, changed };
    this.base = { number: this.number, document };
    return { ask: { ...ask, document }, base: this.number };
  }

  private connect(): void {
    const socket = new WebSocket(this.address);
    socket.binaryType = "arraybuffer";
    this.socket = socket;
    socket.onmessage = (event: MessageEvent<ArrayBuffer>) => void this.took(event.data);
    socket.onclose = () => {
      this.socket = null;
      this.base = null;
      this.broke = performance.now();
      const lost = [...this.waiting.values()];
      this.waiting.clear();
      for (const { reject } of lost) reject(new Error("the line broke"));
    };
  }

  private async took(data: ArrayBuffer): Promise<void> {
    const length = new DataView(data).getUint32(0, true);
    const head = JSON.parse(new TextDecoder().decode(new Uint8Array(data, 4, length))) as Head;
    const waiting = this.waiting.get(head.number);
    if (!waiting) return;
    this.waiting.delete(head.number);
    if (head.problem) {
      // whatever it was, the next one is whole again
      this.base = null;
      waiting.reject(new ApiProblem(head.status ?? 0, head.problem));
      return;
    }
    try {
      const image = await createImageBitmap(
        new Blob([new Uint8Array(data, 4 + length)], { type: "image/jpeg" }),
      );
      const { region, frame, problems } = head;
      waiting.resolve({ image, region, frame, problems, milliseconds: performance.now() - waiting.begun });
    } catch (error) {
      waiting.reject(error);
    }
  }
}

/** The outermost layers of a document that differ from another's; null where more differs than these. */
export function changedLayers(before: Document, now: Document): Layers | null {
  const { layers: were = [], ...beside } = before;
  const { layers = [], ...rest } = now;
  if (were.length !== layers.length || !deepEqual(beside, rest)) return null;
  if (layers.some((layer, i) => layer.id !== were[i]!.id)) return null;
  return layers.filter((layer, i) => layer !== were[i] && !deepEqual(layer, were[i]));
}

let line: { address: string; line: PassingLine } | null = null;

/** The line of a comp's pictures; that of another comp is closed. */
export function lineOf(picture: string): PassingLine {
  const address = new URL(picture.replace(/picture$/, "passing"), window.location.href);
  address.protocol = address.protocol === "https:" ? "wss:" : "ws:";
  if (line?.address !== address.href) {
    line?.line.close();
    line = { address: address.href, line: new PassingLine(address.href) };
  }
  return line.line;
}
