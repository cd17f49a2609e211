import { useEffect, useRef } from "react";
import type { CompAsk, Drawn } from "../../api/pictures";
import { rangeOfDesk, useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { fill, stampOf, stopFilling, useReady } from "./readyFrames";

/** How long nothing may have changed before frames are filled in. */
const REST = 700;

/** Frames are filled in while the picture rests or plays; what is ready is shown while it plays. */
export function useFilled(
  store: DocumentStore,
  comp: number,
  ask: CompAsk | null,
  readings: string,
): Drawn | null {
  const { playing, frame, range, compare } = useDesk();
  const document = store((s) => s.document);
  const drafting = store((s) => s.draft !== null);
  const whole = ask && !drafting && compare.how === "off" ? { ...ask, passing: false } : null;
  const stamp = whole ? stampOf(whole, readings) : "";
  const known = useReady((r) => r.stamp === stamp);
  const ready = useReady((r) => r.frames.get(frame));
  const wish = useRef(whole);
  useEffect(() => {
    wish.current = whole;
  });
  useEffect(() => {
    if (!stamp) return stopFilling;
    const begin = () =>
      wish.current &&
      fill(
        `/api/comps/${comp}/picture`,
        wish.current,
        stamp,
        rangeOfDesk(range, document),
        () => useDesk.getState().frame,
      );
    if (playing) {
      begin();
      return stopFilling;
    }
    const timer = setTimeout(begin, REST);
    return () => {
      clearTimeout(timer);
      stopFilling();
    };
  }, [stamp, playing, comp, range, document]);
  return playing && known ? (ready ?? null) : null;
}
