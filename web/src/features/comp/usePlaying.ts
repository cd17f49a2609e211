/** Playing: the frame follows the clock at the comp's rate; what is not ready in time is counted. */
import { useEffect } from "react";
import type { CompDocument } from "../../domain/comp";
import { frameAt } from "../../domain/time";
import { ratePerSecond } from "../../domain/words";
import { rangeOfDesk, useDesk } from "./deskState";
import { useReady } from "./readyFrames";

export function usePlaying(document: CompDocument): void {
  const playing = useDesk((d) => d.playing);
  const loop = useDesk((d) => d.loop);
  const range = useDesk((d) => d.range);
  const set = useDesk((d) => d.set);
  const { rate } = document;
  const [first, last] = rangeOfDesk(range, document);
  useEffect(() => {
    if (!playing) return;
    const begun = performance.now();
    const current = useDesk.getState().frame;
    const from = current >= last || current < first ? first : current;
    useReady.setState({ dropped: 0 });
    let shown = -1;
    let request = requestAnimationFrame(function step(now) {
      const passed = Math.floor(((now - begun) / 1000) * ratePerSecond(rate));
      const frame = frameAt(from, (now - begun) / 1000, ratePerSecond(rate), first, last, loop);
      if (frame === null) {
        set({ frame: last, playing: false });
        return;
      }
      if (passed > shown) {
        const { frames, dropped } = useReady.getState();
        const missed = passed - shown - 1 + (frames.has(frame) ? 0 : 1);
        if (missed > 0) useReady.setState({ dropped: dropped + missed });
        shown = passed;
      }
      if (frame !== useDesk.getState().frame) set({ frame });
      request = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(request);
  }, [playing, loop, first, last, rate, set]);
}
