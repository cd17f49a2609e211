/** The SHA-256 of files, found beside the page so that it stays quick. Runs as a worker. */
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";

const PIECE = 4 << 20;

export interface Asked {
  ticket: number;
  file: Blob;
}

export interface Told {
  ticket: number;
  digest: string | null;
}

async function digestOf(file: Blob): Promise<string> {
  const running = sha256.create();
  for (let at = 0; at < file.size; at += PIECE) {
    running.update(new Uint8Array(await file.slice(at, at + PIECE).arrayBuffer()));
  }
  return bytesToHex(running.digest());
}

self.onmessage = (event: MessageEvent<Asked>) => {
  const { ticket, file } = event.data;
  void digestOf(file)
    .catch(() => null)
    .then((digest) => self.postMessage({ ticket, digest } satisfies Told));
};
