/** The newest wanted picture: at most one request under way and one waiting; older ones are dropped. */
import { deepEqual } from "fast-equals";
import { useCallback, useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { asProblem, type Problem } from "../api/client";
import { fetchPicture, type Ask, type Drawn } from "../api/pictures";

export interface Asked {
  address: string;
  ask: Ask;
  /** What else the picture depends on: a change of it asks again. */
  stamp?: string;
  /** Nobody waits for it, as for a finer one while the hand rests: a newer one is not kept waiting for it. */
  yields?: boolean;
}

interface State {
  drawn: Drawn | null;
  /** What was asked for the picture that is drawn. */
  shown: Asked | null;
  level: number;
  problem: Problem | null;
  busy: boolean;
}

interface Pictures extends State {
  /** Ask before the page is rendered again with the same wish: the request is on its way meanwhile. */
  want: (asked: Asked) => void;
  /** Whether nothing is under way. */
  idle: () => boolean;
}

export function usePicture(asked: Asked | null, purpose: string): Pictures {
  const [state, setState] = useState<State>({
    drawn: null,
    shown: null,
    level: 0,
    problem: null,
    busy: false,
  });
  const waiting = useRef<Asked | null>(null);
  const working = useRef(false);
  const yielding = useRef<AbortController | null>(null);
  const last = useRef<Asked | null>(null);
  const rendered = useRef<Asked | null>(null);
  const alive = useRef(true);

  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
    };
  }, []);

  const work = useCallback(async () => {
    if (working.current) return;
    working.current = true;
    const here = () => alive.current;
    const more = () => waiting.current !== null;
    setState((s) => (s.busy ? s : { ...s, busy: true }));
    while (waiting.current !== null && here()) {
      const shown = waiting.current;
      waiting.current = null;
      const { address, ask } = shown;
      const stopped = new AbortController();
      yielding.current = shown.yields ? stopped : null;
      try {
        const signal = AbortSignal.any([AbortSignal.timeout(120_000), stopped.signal]);
        const drawn = await fetchPicture(address, ask, signal, purpose);
        const busy = more();
        // at once, not when the scheduler comes to it: somebody is looking at an edge
        if (here()) flushSync(() => setState({ drawn, shown, level: ask.level ?? 0, problem: null, busy }));
      } catch (error) {
        const problem = asProblem(error);
        if (problem.code !== "cancelled" && here()) setState((s) => ({ ...s, problem }));
      }
    }
    working.current = false;
    if (here()) setState((s) => (s.busy ? { ...s, busy: false } : s));
  }, [purpose]);

  const wantOrRest = useCallback(
    (wish: Asked | null) => {
      // layers that both documents have in common are passed over at once
      if (deepEqual(wish, last.current)) return;
      last.current = wish;
      waiting.current = wish;
      if (wish === null) return;
      yielding.current?.abort();
      void work();
    },
    [work],
  );
  const want = useCallback((wish: Asked) => wantOrRest(wish), [wantOrRest]);

  useEffect(() => {
    // a finer picture of the same wish is not asked away again by the page that shows that it is busy
    const same = deepEqual(asked, rendered.current);
    rendered.current = asked;
    if (!same || !last.current?.yields) wantOrRest(asked);
  });

  const idle = useCallback(() => !working.current, []);
  return { ...state, want, idle };
}
