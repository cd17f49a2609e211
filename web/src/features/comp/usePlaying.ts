/** Playing: the frame follows the clock at the comp's rate; pictures that come late are skipped. */
import { useEffect } from "react";
import type { CompDocument } from "../../domain/comp";
import { frameAt } from "../../domain/time";
import { ratePerSecond } from "../../domain/words";
import { useDesk } from "./deskState";

export function usePlaying(document: CompDocument): void {
  const playing = useDesk((d) => d.playing);
  const loop = useDesk((d) => d.loop);
  const set = useDesk((d) => d.set);
  const { first, last, rate } = document;
  useEffect(() => {
    if (!playing) return;
    const begun = performance.now();
    const current = useDesk.getState().frame;
    const from = current >= last ? first : current;
    let request = requestAnimationFrame(function step(now) {
      const frame = frameAt(from, (now - begun) / 1000, ratePerSecond(rate), first, last, loop);
      if (frame === null) {
        set({ frame: last, playing: false });
        return;
      }
      if (frame !== useDesk.getState().frame) set({ frame });
      request = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(request);
  }, [playing, loop, first, last, rate, set]);
}
