/** Asking the hasher: one worker for all files, answers by ticket. */
import type { Told } from "./hasher";

let worker: Worker | null = null;
let tickets = 0;
const waiting = new Map<number, (digest: string) => void>();

function hasher(): Worker | null {
  if (worker) return worker;
  try {
    worker = new Worker(new URL("./hasher.ts", import.meta.url), { type: "module" });
  } catch {
    return null;
  }
  worker.onmessage = (event: MessageEvent<Told>) => {
    waiting.get(event.data.ticket)?.(event.data.digest ?? "");
    waiting.delete(event.data.ticket);
  };
  worker.onerror = () => {
    for (const tell of waiting.values()) tell("");
    waiting.clear();
  };
  return worker;
}

/** The hash of a file in hexadecimal; empty where it cannot be found, and nothing is then checked. */
export function hashOf(file: Blob): Promise<string> {
  const one = hasher();
  if (!one) return Promise.resolve("");
  tickets += 1;
  const ticket = tickets;
  return new Promise((resolve) => {
    waiting.set(ticket, resolve);
    one.postMessage({ ticket, file });
  });
}
