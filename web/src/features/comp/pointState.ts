/** The point under the pointer with its values, and whether a colour is being picked. */
import { create } from "zustand";
import type { SampleOut } from "../../api/client";
import type { CompAsk } from "../../api/pictures";

interface Pointed {
  point: [number, number] | null;
  sample: SampleOut | null;
  /** What is shown, for the instruments; nothing while it moves. */
  ask: CompAsk | null;
}

export const usePoint = create<Pointed>(() => ({ point: null, sample: null, ask: null }));

export const usePicking = create<{ picking: boolean }>(() => ({ picking: false }));
