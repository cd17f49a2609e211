/** Bringing files in: a few at once, with progress, and cancelled at any time. */
import { ApiProblem, client, csrfToken, problemOf, take } from "./client";

export interface Bringing {
  files: number;
  filesDone: number;
  bytes: number;
  bytesDone: number;
}

const AT_ONCE = 3;

/** Sends all files as one arrival; numbered stills among them become sequences. */
export async function bringFiles(
  project: number,
  files: File[],
  signal: AbortSignal,
  onProgress: (state: Bringing) => void,
): Promise<void> {
  const total = files.reduce((sum, f) => sum + f.size, 0);
  const done = new Map<File, number>();
  let filesDone = 0;
  const report = () =>
    onProgress({
      files: files.length,
      filesDone,
      bytes: total,
      bytesDone: [...done.values()].reduce((a, b) => a + b, 0),
    });
  report();
  const path = { project_id: project };
  const arrival = await take<{ id: number }>(
    client.POST("/api/projects/{project_id}/arrivals", { params: { path }, signal }),
  );
  const waiting = [...files];
  const worker = async () => {
    for (let file = waiting.shift(); file; file = waiting.shift()) {
      const current = file;
      await sendFile(arrival.id, current, signal, (bytes) => {
        done.set(current, bytes);
        report();
      });
      done.set(current, current.size);
      filesDone += 1;
      report();
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  await take(
    client.POST("/api/arrivals/{arrival_id}/finish", {
      params: { path: { arrival_id: arrival.id } },
      signal,
    }),
  );
}

function sendFile(
  arrival: number,
  file: File,
  signal: AbortSignal,
  onBytes: (n: number) => void,
): Promise<void> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("PUT", `/api/arrivals/${arrival}/files?name=${encodeURIComponent(file.name)}`);
    request.setRequestHeader("X-CSRFToken", csrfToken());
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.upload.onprogress = (event) => onBytes(event.loaded);
    request.onload = () => {
      if (request.status === 200) resolve();
      else reject(problemOf(request.status, parsed(request.responseText)));
    };
    request.onerror = () =>
      reject(
        new ApiProblem(0, {
          code: "no-answer",
          message: `${file.name} could not be sent: the line dropped.`,
          advice: "Bring it in again.",
          where: file.name,
        }),
      );
    request.onabort = () => reject(new DOMException("cancelled", "AbortError"));
    signal.addEventListener("abort", () => request.abort(), { once: true });
    request.send(file);
  });
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Every file of a drop, folders opened. */
export async function filesOfDrop(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((e) => e !== null);
  if (entries.length === 0) return [...transfer.files];
  return (await Promise.all(entries.map(filesOfEntry))).flat();
}

async function filesOfEntry(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile) {
    return [await new Promise<File>((ok, no) => (entry as FileSystemFileEntry).file(ok, no))];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: File[] = [];
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((ok, no) => reader.readEntries(ok, no));
    if (batch.length === 0) return found;
    found.push(...(await Promise.all(batch.map(filesOfEntry))).flat());
  }
}
