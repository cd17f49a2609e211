import { useEffect, useRef } from "react";
import type { CompAsk, Drawn } from "../../api/pictures";
import { rangeOfDesk, useDesk, useDeskFields } from "./deskState";
import { useSame } from "../../ui/useSame";
import type { DocumentStore } from "./documentStore";
import { fill, setOf, stopFilling, useReady } from "./readyFrames";

/** How long nothing may have changed before frames are filled in. */
const REST = 700;

/** Frames are filled in while the picture rests or plays; what is ready is shown while it plays. */
export function useFilled(
  store: DocumentStore,
  comp: number,
  ask: CompAsk | null,
  readings: string,
): Drawn | null {
  const { playing, frame, range, compare } = useDeskFields("playing", "frame", "range", "compare");
  const document = store((s) => s.document);
  const drafting = store((s) => s.draft !== null);
  const whole = ask && !drafting && compare.how === "off" ? ask : null;
  const set = useSame(whole && setOf(whole, readings));
  const known = useReady((r) => r.set === set);
  const ready = useReady((r) => r.frames.get(frame));
  const wish = useRef(whole);
  useEffect(() => {
    wish.current = whole;
  });
  useEffect(() => {
    if (!set) return stopFilling;
    const begin = () =>
      wish.current &&
      fill(
        `/api/comps/${comp}/picture`,
        wish.current,
        set,
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
  }, [set, playing, comp, range, document]);
  return playing && set && known ? (ready ?? null) : null;
}
