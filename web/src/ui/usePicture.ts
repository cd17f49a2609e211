/** The newest wanted picture: at most one request under way and one waiting; older ones are dropped. */
import { useCallback, useEffect, useRef, useState } from "react";
import { asProblem, type Problem } from "../api/client";
import { fetchPicture, type CompAsk, type Drawn, type ElementAsk } from "../api/pictures";

export interface Asked {
  address: string;
  ask: CompAsk | ElementAsk;
  /** What else the picture depends on: a change of it asks again. */
  stamp?: string;
}

interface State {
  drawn: Drawn | null;
  level: number;
  problem: Problem | null;
  busy: boolean;
}

export function usePicture(asked: Asked | null, purpose: string): State {
  const [state, setState] = useState<State>({ drawn: null, level: 0, problem: null, busy: false });
  const waiting = useRef<string | null>(null);
  const working = useRef(false);
  const shown = useRef("");
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
    setState((s) => (s.busy ? s : { ...s, busy: true }));
    while (waiting.current !== null && here()) {
      const text = waiting.current;
      waiting.current = null;
      const { address, ask } = JSON.parse(text) as Asked;
      try {
        const drawn = await fetchPicture(address, ask, AbortSignal.timeout(120_000), purpose);
        shown.current = text;
        if (here()) setState((s) => ({ ...s, drawn, level: ask.level ?? 0, problem: null }));
      } catch (error) {
        const problem = asProblem(error);
        if (problem.code !== "cancelled" && here()) setState((s) => ({ ...s, problem }));
      }
    }
    working.current = false;
    if (here()) setState((s) => ({ ...s, busy: false }));
  }, [purpose]);

  const text = asked ? JSON.stringify(asked) : null;
  useEffect(() => {
    if (text === null || text === shown.current) {
      waiting.current = null;
      return;
    }
    waiting.current = text;
    void work();
  }, [text, work]);

  return state;
}
