import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { CompAsk } from "./pictures";
import { changedLayers, PassingLine, type PassingAsk } from "./passing";

type Document = NonNullable<CompAsk["document"]>;

const layer = (id: string, x = 0) => ({ kind: "element", id, name: id, element: "e1", transform: { x } });
const document = (...layers: object[]) => ({ width: 8, height: 8, layers }) as unknown as Document;
const ask = (of: Document, sequence = 1): PassingAsk => ({
  frame: 1,
  passing: true,
  document: of,
  viewer: "v",
  sequence,
});

/** The server's end of the line. */
class Socket {
  static readonly OPEN = 1;
  static newest: Socket;
  readyState = 0;
  sent: { number: number; base: number; ask: { document?: Document }; changed?: { id: string }[] }[] = [];
  onmessage?: (event: { data: ArrayBuffer }) => void;
  onclose?: () => void;
  constructor() {
    Socket.newest = this;
  }
  send = (message: string) => this.sent.push(JSON.parse(message) as (typeof this.sent)[number]);
  close = () => this.onclose?.();
  answer(head: object, jpeg = [1, 2, 3]) {
    const told = new TextEncoder().encode(JSON.stringify(head));
    const data = new Uint8Array(4 + told.length + jpeg.length);
    new DataView(data.buffer).setUint32(0, told.length, true);
    data.set(told, 4);
    data.set(jpeg, 4 + told.length);
    this.onmessage?.({ data: data.buffer });
  }
}

const drawn = { region: [0, 0, 8, 8], frame: [8, 8], problems: [] };
const never = new AbortController().signal;

function opened() {
  const line = new PassingLine("ws://here/passing");
  expect(line.open).toBe(false);
  Socket.newest.readyState = Socket.OPEN;
  expect(line.open).toBe(true);
  return line;
}

describe("the line of passing pictures", () => {
  beforeEach(() => {
    vi.stubGlobal("WebSocket", Socket);
    vi.stubGlobal("createImageBitmap", (blob: Blob) => Promise.resolve({ size: blob.size }));
  });
  afterEach(() => vi.unstubAllGlobals());

  it("sends the document once, then the layers that have changed", async () => {
    const line = opened();
    const first = line.draw(ask(document(layer("a"), layer("b"), layer("c"))), never);
    const second = line.draw(ask(document(layer("a"), layer("b", 5), layer("c"))), never);
    const [whole, moved] = Socket.newest.sent;
    expect(whole!.ask.document!.layers).toHaveLength(3);
    expect(moved).toMatchObject({ base: whole!.base, changed: [{ id: "b", transform: { x: 5 } }] });
    expect(moved!.ask.document).toBeUndefined();
    Socket.newest.answer({ number: moved!.number, ...drawn }, [1, 2]);
    Socket.newest.answer({ number: whole!.number, ...drawn });
    expect(await second).toMatchObject({ image: { size: 2 }, region: drawn.region, frame: drawn.frame });
    expect(await first).toMatchObject({ image: { size: 3 } });
  });

  it("sends all of it where more than layers has changed, and after a problem", async () => {
    const line = opened();
    void line.draw(ask(document(layer("a"))), never).catch(() => null);
    void line.draw(ask({ ...document(layer("a")), width: 9 }), never).catch(() => null);
    const refused = line.draw(ask({ ...document(layer("a", 1)), width: 9 }), never);
    const problem = { code: "document-refused", message: "m", advice: "", where: "" };
    Socket.newest.answer({ number: Socket.newest.sent[2]!.number, status: 422, problem });
    await expect(refused).rejects.toMatchObject({ status: 422, problem });
    void line.draw(ask({ ...document(layer("a", 2)), width: 9 }), never);
    expect(Socket.newest.sent.map((m) => !!m.ask.document)).toEqual([true, true, false, true]);
  });

  it("ends what waits when it breaks or is stopped, and is not tried again at once", async () => {
    const line = opened();
    const stop = new AbortController();
    const stopped = line.draw(ask(document(layer("a"))), stop.signal);
    stop.abort();
    await expect(stopped).rejects.toMatchObject({ name: "AbortError" });
    const lost = line.draw(ask(document(layer("a"))), never);
    Socket.newest.close();
    await expect(lost).rejects.toThrow("broke");
    expect(line.open).toBe(false);
    expect(line.open).toBe(false);
  });

  it("tells layers apart by what they hold, and more than layers by nothing", () => {
    const before = document(layer("a"), layer("b"));
    expect(changedLayers(before, document(layer("a"), layer("b")))).toEqual([]);
    expect(changedLayers(before, document(layer("b"), layer("a")))).toBeNull();
    expect(changedLayers(before, document(layer("a")))).toBeNull();
  });
});
