/** The point under the pointer with its values, and whether a colour is being picked. */
import { create } from "zustand";
import type { SampleOut } from "../../api/client";

export const usePoint = create<{ point: [number, number] | null; sample: SampleOut | null }>(() => ({
  point: null,
  sample: null,
}));

export const usePicking = create<{ picking: boolean }>(() => ({ picking: false }));
