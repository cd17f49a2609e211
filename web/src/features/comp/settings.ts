/** What is typed of a comp's name, size, rate and frames, as the document holds it. */
import { text } from "./strings";

const t = text.CompSettings;

export interface SettingsForm {
  name: string;
  width: string;
  height: string;
  rate: string;
  first: string;
  last: string;
  working: string;
}

export interface Settings {
  name: string;
  width: number;
  height: number;
  rate: string;
  first: number;
  last: number;
  working: string;
}

/** As of the document's schema. */
const LARGEST = 16384;

export function parsedSettings(form: SettingsForm): Settings | { problem: string } {
  const name = form.name.trim();
  const rate = form.rate.trim();
  const [width, height, first, last] = [form.width, form.height, form.first, form.last].map((v) =>
    /^-?\d+$/.test(v.trim()) ? Number(v) : NaN,
  ) as [number, number, number, number];
  if (!name) return { problem: t.needsAName };
  if (!(width >= 1 && width <= LARGEST && height >= 1 && height <= LARGEST))
    return { problem: t.sizeIs(LARGEST) };
  if (!(Math.abs(first) <= 1e6 && Math.abs(last) <= 1e6)) return { problem: t.framesAreWhole };
  if (last < first) return { problem: t.lastBeforeFirst };
  if (!/^\d+(\.\d+)?(\/\d+)?$/.test(rate) || !(parseFloat(rate) > 0)) return { problem: t.rateIs };
  return { name, width, height, rate, first, last, working: form.working };
}
