import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { client } from "./client";
import * as hashing from "./hashing";
import { filesOfDrop, importFiles, type ArrivalOut, type Dropped, type Importing } from "./importFiles";

/** A server that keeps what it is sent, and whose line can be cut. */
class Server {
  kept = new Map<string, { bytes: number; whole: boolean }>();
  sent: { name: string; offset: number; size: number; last: boolean; sha256: string | null }[] = [];
  finished: number[] = [];
  /** What happens to each piece in turn: it arrives, the line is cut before or after it, it is refused. */
  fates: ("arrives" | "cut" | "cut-after" | { status: number; code: string })[] = [];

  arrival(): ArrivalOut {
    const files = [...this.kept].map(([name, row]) => ({ name, ...row }));
    return { id: 5, files, expected: [] };
  }

  install() {
    const ok = (data: unknown) => Promise.resolve({ data, response: { ok: true, status: 200 } });
    vi.spyOn(client, "GET").mockImplementation((() => ok(this.arrival())) as never);
    vi.spyOn(client, "POST").mockImplementation(((path: string) => {
      if (path.endsWith("/finish")) this.finished.push(5);
      return ok(this.arrival());
    }) as never);
    vi.spyOn(hashing, "hashOf").mockResolvedValue("abc");
    const take = (address: string, body: Blob) => this.take(address, body);
    vi.stubGlobal(
      "XMLHttpRequest",
      class {
        upload: { onprogress?: (event: { loaded: number }) => void } = {};
        status = 0;
        responseText = "";
        onload?: () => void;
        onerror?: () => void;
        onabort?: () => void;
        address = "";
        gone = false;
        open(_: string, address: string) {
          this.address = address;
        }
        setRequestHeader() {}
        abort() {
          this.gone = true;
          this.onabort?.();
        }
        send(body: Blob) {
          queueMicrotask(() => {
            if (this.gone) return;
            const answer = take(this.address, body);
            this.upload.onprogress?.({ loaded: body.size });
            if (answer === null) {
              this.onerror?.();
              return;
            }
            this.status = answer.status;
            this.responseText = JSON.stringify(answer.body);
            this.onload?.();
          });
        }
      },
    );
  }

  private take(address: string, body: Blob): { status: number; body: unknown } | null {
    const query = new URL(address, "http://here").searchParams;
    const [name, offset] = [query.get("name")!, Number(query.get("offset"))];
    const last = query.get("last") === "true";
    const fate = this.fates.shift() ?? "arrives";
    if (fate === "cut") return null;
    if (typeof fate === "object") return { status: fate.status, body: { ...fate, message: fate.code } };
    this.sent.push({ name, offset, size: body.size, last, sha256: query.get("sha256") });
    this.kept.set(name, { bytes: offset + body.size, whole: last });
    return fate === "cut-after" ? null : { status: 200, body: {} };
  }
}

const MEGABYTE = 1 << 20;
const file = (name: string, megabytes: number): Dropped => ({
  name,
  file: new File([new Uint8Array(megabytes * MEGABYTE)], name),
});

let server: Server;
beforeEach(() => {
  server = new Server();
  server.install();
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

/** Import these, with waits for the line passed over; what was reported on the way. */
async function run(files: Dropped[], stop = new AbortController()) {
  const seen: Importing[] = [];
  const done = importFiles(1, files, stop.signal, (state) => seen.push(state));
  const outcome = done.then(
    () => null,
    (error: unknown) => error,
  );
  await vi.runAllTimersAsync();
  for (let i = 0; i < 20; i += 1) await vi.advanceTimersByTimeAsync(60_000);
  return { seen, error: await outcome };
}

describe("importing files", () => {
  it("sends a large file in pieces, with its hash at the end, and then says that all is there", async () => {
    const { seen, error } = await run([file("kite.exr", 40)]);
    expect(error).toBeNull();
    expect(server.sent.map((s) => [s.offset / MEGABYTE, s.size / MEGABYTE, s.last, s.sha256])).toEqual([
      [0, 16, false, null],
      [16, 16, false, null],
      [32, 8, true, "abc"],
    ]);
    expect(server.finished).toEqual([5]);
    expect(seen.at(-1)).toMatchObject({ files: 1, filesDone: 1, bytesDone: 40 * MEGABYTE });
  });

  it("goes on where the line broke, and says meanwhile that it waits", async () => {
    server.fates = ["arrives", "cut", "cut", "arrives"];
    const { seen, error } = await run([file("kite.exr", 40)]);
    expect(error).toBeNull();
    expect(server.sent.map((s) => s.offset / MEGABYTE)).toEqual([0, 16, 32]);
    expect(seen.some((s) => s.waiting)).toBe(true);
    expect(seen.at(-1)!.waiting).toBe(false);
  });

  it("asks what came where the answer was lost, and does not send it twice", async () => {
    server.fates = ["cut-after", "arrives", "cut-after"];
    const { error } = await run([file("kite.exr", 40)]);
    expect(error).toBeNull();
    expect(server.sent.map((s) => s.offset / MEGABYTE)).toEqual([0, 16, 32]);
  });

  it("tries again where a proxy answers for a server that is away, and gives up in the end", async () => {
    server.fates = Array.from({ length: 20 }, () => ({ status: 502, code: "away" }));
    const { error } = await run([file("kite.exr", 1)]);
    expect(error).toMatchObject({ status: 502 });
    expect(server.finished).toEqual([]);
  });

  it("ends at once at what will not be mended by trying again", async () => {
    server.fates = [{ status: 507, code: "disk-full" }];
    const { error } = await run([file("kite.exr", 1)]);
    expect(error).toMatchObject({ problem: { code: "disk-full" } });
    expect(server.finished).toEqual([]);
  });

  it("sends nothing more once it is cancelled, while the line is waited for too", async () => {
    server.fates = Array.from({ length: 9 }, () => "cut" as const);
    const stop = new AbortController();
    setTimeout(() => stop.abort(), 2500);
    const { error } = await run([file("kite.exr", 1)], stop);
    expect(error).toBeInstanceOf(DOMException);
    expect(server.sent).toEqual([]);
  });

  it("takes up an arrival that was left when the page was closed", async () => {
    const left = [file("a.0001.png", 1), file("a.0002.png", 1)];
    server.kept.set("a.0001.png", { bytes: MEGABYTE, whole: true });
    const { error } = await run(left);
    expect(error).toBeNull();
    expect(server.sent.map((s) => s.name)).toEqual(["a.0002.png"]);
  });
});

describe("what is dropped", () => {
  const fileEntry = (name: string) => ({
    name,
    isFile: true,
    file: (ok: (f: File) => void) => ok(new File(["x"], name)),
  });
  const folder = (name: string, ...inside: object[]) => {
    let given = false;
    return {
      name,
      isFile: false,
      createReader: () => ({
        readEntries: (ok: (e: object[]) => void) => {
          ok(given ? [] : inside);
          given = true;
        },
      }),
    };
  };

  it("opens folders, keeps their names, and passes hidden files over", async () => {
    const entries = [
      folder("plates", fileEntry("a.png"), folder("sky", fileEntry("b.png")), fileEntry(".x")),
    ];
    const transfer = { items: entries.map((e) => ({ webkitGetAsEntry: () => e })), files: [] };
    const found = await filesOfDrop(transfer as unknown as DataTransfer);
    expect(found.map((f) => f.name).sort()).toEqual(["plates/a.png", "plates/sky/b.png"]);
  });
});
