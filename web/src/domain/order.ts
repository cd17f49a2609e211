/** An order of deliveries as it is put together on the page. */
import type { FormatOut } from "../api/client";
import type { DeliveryPreset, OrderIn, Take } from "../api/orders";
import { presetOf, type DeliveryForm } from "./deliveryForm";

export interface OrderDraft {
  comps: number[];
  elements: number[];
  /** Of the one comp's list, as they are typed. */
  rows: string;
  take: Take;
  forms: DeliveryForm[];
  /** One of the server's folders; empty for the project's own. */
  server: string;
  folder: string;
  name: string;
}

export const WHOLE: Take = {
  part: "comp",
  layer: "",
  frames: "",
  size: "full",
  width: 1920,
  height: 1080,
  filter: "lanczos3",
  rate: "",
  timing: "frames",
  timecode: "",
  layers: [],
  start: null,
};

/** What an order begins with: the next free version of the comp's own folder. */
export const startOf = (form: DeliveryForm, comp: number | undefined): OrderDraft => ({
  comps: comp === undefined ? [] : [comp],
  elements: [],
  rows: "",
  take: WHOLE,
  forms: [form],
  server: "",
  folder: "{comp}/{version}",
  name: "{comp}",
});

/** What is sent; ready formats go by their names. ``rows``: read from the draft's. */
export function bodyOf(
  draft: OrderDraft,
  formats: readonly FormatOut[],
  rows: readonly number[],
  lossAccepted = false,
): OrderIn {
  const ready = draft.forms.map((form) => presetOf(form, formats));
  return {
    comps: draft.comps,
    elements: draft.elements,
    rows: [...rows],
    take: draft.take,
    formats: ready.flatMap((f) => (f ? [f.name] : [])),
    forms: draft.forms.filter((_, i) => !ready[i]),
    server: draft.server,
    folder: draft.folder,
    // what would have one name would be written over
    name: apart(draft, rows.length),
    loss_accepted: lossAccepted,
  };
}

/** The name, with what tells deliveries of one order apart where nobody put it there. */
function apart(draft: OrderDraft, rows: number): string {
  const tokens = `${draft.folder} ${draft.name}`;
  let name = draft.name;
  if (
    rows > 0 &&
    !tokens.includes("{row}") &&
    !/\{(?!comp|version|format|date|project|layer|frame)/.test(tokens)
  )
    name += "_{row}";
  if (draft.comps.length + draft.elements.length > 1 && !tokens.includes("{comp}")) name += "_{comp}";
  if (draft.forms.length > 1 && !tokens.includes("{format}")) name += "_{format}";
  return name;
}

/** A preset's form, size and names in an order; what goes out stays. */
export const withPreset = (draft: OrderDraft, preset: DeliveryPreset): OrderDraft => ({
  ...draft,
  forms: [preset.form],
  take: {
    ...preset.take,
    part: draft.take.part,
    layer: draft.take.layer,
    layers: draft.take.layers,
    frames: draft.take.frames,
  },
  server: preset.server,
  folder: preset.folder,
  name: preset.file_name,
});

/** Whether an order says what a preset says. */
export function isPreset(draft: OrderDraft, preset: DeliveryPreset): boolean {
  const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);
  const applied = withPreset(draft, preset);
  const fields = Object.keys(applied.take) as (keyof Take)[];
  return (
    draft.forms.length === 1 &&
    presetOf(draft.forms[0]!, [{ form: preset.form } as FormatOut]) !== null &&
    fields.every((f) => same(applied.take[f], draft.take[f])) &&
    same([applied.server, applied.folder, applied.name], [draft.server, draft.folder, draft.name])
  );
}

/** A change that advice offers, in every form of an order. */
export const repaired = (
  draft: OrderDraft,
  repair: { form: Record<string, unknown>; take: Record<string, unknown> },
): OrderDraft => ({
  ...draft,
  forms: draft.forms.map((form) => ({ ...form, ...(repair.form as Partial<DeliveryForm>) })),
  take: { ...draft.take, ...(repair.take as Partial<Take>) },
});
