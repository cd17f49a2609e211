/**
 * Frames of what is looked at that are ready to be played: filled in the background within a limit of
 * memory, thrown away when anything they depend on changes.
 */
import { create } from "zustand";
import { fetchPicture, type CompAsk, type Drawn } from "../../api/pictures";

/** Bytes of pictures that are held. */
export const LIMIT = 768 * 1024 * 1024;

interface Ready {
  /** What the frames are of. */
  set: FrameSet | null;
  frames: ReadonlyMap<number, Drawn>;
  bytes: number;
  /** Whether no more fit in. */
  full: boolean;
  /** Frames that could not be shown in time since playing began. */
  dropped: number;
}

const NOTHING: Omit<Ready, "set" | "dropped"> = { frames: new Map(), bytes: 0, full: false };

export const useReady = create<Ready>(() => ({ set: null, ...NOTHING, dropped: 0 }));

const sizeOf = (drawn: Drawn): number => drawn.image.width * drawn.image.height * 4;

/** Everything a frame depends on but its number; an equal one is the same set. */
export interface FrameSet {
  ask: CompAsk;
  readings: string;
}

export const setOf = (ask: CompAsk, readings: string): FrameSet => ({
  ask: { ...ask, frame: 0, quality: "fast", passing: false },
  readings,
});

/** The next frame that is not ready: from the one that is shown on, then from the first. */
export function nextToFill(
  ready: ReadonlyMap<number, unknown>,
  from: number,
  [first, last]: readonly [number, number],
): number | null {
  for (let i = 0; i <= last - first; i += 1) {
    const frame = first + ((from - first + i) % (last - first + 1));
    if (!ready.has(frame)) return frame;
  }
  return null;
}

let filling: AbortController | null = null;

export function stopFilling(): void {
  filling?.abort();
  filling = null;
}

/** Begin to fill, one frame after another, until all are there, the memory is full, or it is stopped. */
export function fill(
  address: string,
  ask: CompAsk,
  set: FrameSet,
  range: readonly [number, number],
  from: () => number,
): void {
  stopFilling();
  const stop = new AbortController();
  filling = stop;
  if (useReady.getState().set !== set) useReady.setState({ set, ...NOTHING });
  void work(address, ask, range, from, stop.signal);
}

async function work(
  address: string,
  ask: CompAsk,
  range: readonly [number, number],
  from: () => number,
  signal: AbortSignal,
): Promise<void> {
  const stopped = () => signal.aborted;
  while (!stopped()) {
    const { frames, bytes } = useReady.getState();
    const frame = nextToFill(frames, from(), range);
    if (frame === null) return;
    try {
      const drawn = await fetchPicture(address, { ...ask, frame, quality: "fast" }, signal, "comp-fill");
      if (stopped()) return;
      const grown = bytes + sizeOf(drawn);
      if (grown > LIMIT) {
        useReady.setState({ full: true });
        return;
      }
      useReady.setState({ frames: new Map(frames).set(frame, drawn), bytes: grown });
    } catch {
      return; // the picture itself says what is wrong
    }
  }
}
