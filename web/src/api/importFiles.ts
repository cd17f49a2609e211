/** Importing files in: in pieces, with progress, going on after a lost line or a closed page. */
import { ApiProblem, client, csrfToken, problemOf, take, type ElementOut, type Sent } from "./client";
import { hashOf } from "./hashing";
import { text } from "./strings";

const t = text.importFiles;

export type ArrivalOut = Sent<"ArrivalOut">;

export interface Importing {
  files: number;
  filesDone: number;
  bytes: number;
  bytesDone: number;
  /** The line dropped; it is tried again. */
  waiting?: boolean;
}

/** A file with the folders it was dropped in. */
export interface Dropped {
  file: File;
  name: string;
}

const AT_ONCE = 3;
const PIECE = 16 << 20;
/** Seconds between tries after the line dropped. */
const WAITS = [1, 2, 4, 8, 15, 15, 30, 30, 60, 60, 60, 60];

/** Arrivals that were not finished: the same files dropped again go on where they broke off. */
export async function unfinished(project: number): Promise<ArrivalOut[]> {
  const path = { project_id: project };
  return take<ArrivalOut[]>(client.GET("/api/projects/{project_id}/arrivals", { params: { path } }));
}

/** Sends all files as one arrival, and gives its elements; numbered stills among them become sequences. */
export async function importFiles(
  project: number,
  files: Dropped[],
  signal: AbortSignal,
  onProgress: (state: Importing) => void,
): Promise<ElementOut[]> {
  const total = files.reduce((sum, f) => sum + f.file.size, 0);
  const done = new Map<Dropped, number>();
  let filesDone = 0;
  let waiting = false;
  const report = () =>
    onProgress({
      files: files.length,
      filesDone,
      bytes: total,
      bytesDone: [...done.values()].reduce((a, b) => a + b, 0),
      waiting,
    });
  report();
  const arrival = await begun(project, files, signal);
  const there = new Map(arrival.files.map((f) => [f.name, f]));
  const left = [...files];
  const worker = async () => {
    for (let one = left.shift(); one; one = left.shift()) {
      const current = one;
      const before = there.get(current.name);
      if (!before?.whole) {
        await sendWhole(arrival.id, current, before?.bytes ?? 0, signal, (bytes, stalled) => {
          done.set(current, bytes);
          waiting = stalled;
          report();
        });
      }
      done.set(current, current.file.size);
      filesDone += 1;
      report();
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  return take<ElementOut[]>(
    client.POST("/api/arrivals/{arrival_id}/finish", {
      params: { path: { arrival_id: arrival.id } },
      signal,
    }),
  );
}

/** A new arrival; or an unfinished one that expects these files, with what has come of them. */
function begun(project: number, files: Dropped[], signal: AbortSignal): Promise<ArrivalOut> {
  return take<ArrivalOut>(
    client.POST("/api/projects/{project_id}/arrivals", {
      params: { path: { project_id: project } },
      body: { files: files.map((f) => ({ name: f.name, bytes: f.file.size })) },
      signal,
    }),
  );
}

/** One file in pieces; when the line drops, the server is asked how much came, and it goes on there. */
async function sendWhole(
  arrival: number,
  { file, name }: Dropped,
  from: number,
  signal: AbortSignal,
  onBytes: (n: number, stalled: boolean) => void,
): Promise<void> {
  const digest = hashOf(file);
  let offset = Math.min(from, file.size);
  let tries = 0;
  for (;;) {
    const end = Math.min(file.size, offset + PIECE);
    const last = end === file.size;
    const query = new URLSearchParams({ name, offset: String(offset), last: String(last) });
    if (last) query.set("sha256", await digest);
    const start = offset;
    try {
      await sendBytes(`/api/arrivals/${arrival}/files?${query}`, file.slice(offset, end), signal, name, (n) =>
        onBytes(start + n, false),
      );
      offset = end;
      tries = 0;
      if (last) return;
    } catch (error) {
      if (!dropped(error) || tries >= WAITS.length) throw error;
      onBytes(offset, true);
      await pause(WAITS[tries]!, signal);
      tries += 1;
      const seen = await came(arrival, name);
      if (seen?.whole) return;
      offset = seen?.bytes ?? offset;
    }
  }
}

function dropped(error: unknown): boolean {
  return error instanceof ApiProblem && [0, 502, 503, 504].includes(error.status);
}

async function came(arrival: number, name: string): Promise<{ bytes: number; whole: boolean } | null> {
  try {
    const path = { arrival_id: arrival };
    const seen = await take<ArrivalOut>(client.GET("/api/arrivals/{arrival_id}", { params: { path } }));
    return seen.files.find((f) => f.name === name) ?? { bytes: 0, whole: false };
  } catch {
    return null;
  }
}

function pause(seconds: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, seconds * 1000);
    signal.addEventListener(
      "abort",
      () => {
        clearTimeout(timer);
        reject(new DOMException("cancelled", "AbortError"));
      },
      { once: true },
    );
  });
}

/** A body to an address by PUT, with progress; what the server answers. */
export function sendBytes(
  address: string,
  body: Blob,
  signal: AbortSignal,
  name: string,
  onBytes: (n: number) => void,
): Promise<unknown> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("PUT", address);
    request.setRequestHeader("X-CSRFToken", csrfToken());
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.upload.onprogress = (event) => onBytes(event.loaded);
    request.onload = () => {
      if (request.status === 200) resolve(parsed(request.responseText));
      else reject(problemOf(request.status, parsed(request.responseText)));
    };
    request.onerror = () =>
      reject(
        new ApiProblem(0, {
          code: "no-answer",
          message: t.couldNotBeSentThe(name),
          advice: t.whatCameIsKeptDrop,
          where: name,
        }),
      );
    request.onabort = () => reject(new DOMException("cancelled", "AbortError"));
    if (signal.aborted) {
      reject(new DOMException("cancelled", "AbortError"));
      return;
    }
    signal.addEventListener("abort", () => request.abort(), { once: true });
    request.send(body);
  });
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Every file of a drop, folders opened; each under the folders it lay in. */
export async function filesOfDrop(transfer: DataTransfer): Promise<Dropped[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((e) => e !== null);
  if (entries.length === 0) return named([...transfer.files]);
  return (await Promise.all(entries.map((e) => filesOfEntry(e, "")))).flat();
}

/** Files that were chosen: a chosen folder gives its place with each. */
export function named(files: File[]): Dropped[] {
  return files.map((file) => ({ file, name: file.webkitRelativePath || file.name }));
}

async function filesOfEntry(entry: FileSystemEntry, inside: string): Promise<Dropped[]> {
  const name = inside + entry.name;
  if (entry.name.startsWith(".")) return [];
  if (entry.isFile) {
    const file = await new Promise<File>((ok, no) => (entry as FileSystemFileEntry).file(ok, no));
    return [{ file, name }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: Dropped[] = [];
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((ok, no) => reader.readEntries(ok, no));
    if (batch.length === 0) return found;
    found.push(...(await Promise.all(batch.map((e) => filesOfEntry(e, `${name}/`)))).flat());
  }
}
