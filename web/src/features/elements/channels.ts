/** The channels of an element as what can be shown: its picture, whole passes, single channels. */
import type { ElementOut } from "../../api/client";
import { dataPlanes, holdsInWords } from "../../domain/holds";
import { text } from "./strings";

const t = text.channels;

export interface Pass {
  value: string;
  label: string;
  planes: string[] | null;
  data: boolean;
}

const ORDER = ["R", "G", "B", "X", "Y", "Z", "U", "V"];

export interface Channel {
  name: string;
  data: boolean;
}

/** The file's own channels and those carried along, data where the name or a person says so. */
export function channelsOf(element: ElementOut): Channel[] {
  const said = [...(element.facts?.channels ?? []), ...element.parts];
  return said.map(({ name, data }) => ({
    name,
    data: element.kinds[name] ? element.kinds[name] === "data" : data,
  }));
}

/** The picture first, then passes of several channels, then every channel by itself. */
export function passesOf(element: ElementOut): Pass[] {
  const channels = channelsOf(element);
  const groups = new Map<string, Channel[]>();
  for (const c of channels) {
    const layer = c.name.includes(".") ? c.name.slice(0, c.name.lastIndexOf(".")) : "";
    if (layer) groups.set(layer, [...(groups.get(layer) ?? []), c]);
  }
  const data = dataPlanes(element);
  const found: Pass[] = [
    data
      ? { value: "", label: holdsInWords(element.holds), planes: data, data: true }
      : { value: "", label: t.picture, planes: null, data: false },
  ];
  const place = (name: string) => ORDER.indexOf(name.slice(name.lastIndexOf(".") + 1));
  for (const [layer, rows] of groups) {
    if (rows.length < 2 || rows.length > 4) continue;
    const planes = rows
      .map((r) => r.name)
      .filter((n) => place(n) >= 0)
      .sort((a, b) => place(a) - place(b))
      .slice(0, 3);
    if (planes.length > 1)
      found.push({ value: `${layer}.*`, label: layer, planes, data: rows.some((r) => r.data) });
  }
  for (const c of channels) found.push({ value: c.name, label: c.name, planes: [c.name], data: c.data });
  return found;
}

/** What a channel's values tell: nothing in it, one value everywhere, or a range. */
export function rangeInWords(low: number | null, high: number | null): string {
  if (low === null || high === null) return "";
  const short = (v: number) => String(Number(v.toPrecision(4)));
  if (low === 0 && high === 0) return "empty";
  if (low === high) return t.everywhere(short(low));
  return t.to(short(low), short(high));
}
