/** What to write: what goes out, in which form, which frames, where to. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, type CompRow } from "../../api/client";
import { orderCalls } from "../../api/orders";
import { queries } from "../../api/queries";
import { rowsIn } from "../../domain/list";
import { bodyOf, repaired, startOf, type OrderDraft } from "../../domain/order";
import { Button, ProblemNote } from "../../ui/basics";
import { FormChoice } from "./FormChoice";
import { KeepPreset } from "./KeepPreset";
import { OrderAdvice, useCheck } from "./OrderAdvice";
import { PlaceFields } from "./PlaceFields";
import { SourceChoice } from "./SourceChoice";
import { TakeFields, type Own } from "./TakeFields";
import { text } from "./strings";

const t = text.OrderForm;

/** What is offered first. */
const FIRST = "png16-straight";

interface Props {
  project: number;
  comps: CompRow[];
  /** What a link asks for: a comp, and rows of its list. */
  asked?: { comp: number; rows: string };
}

export function OrderForm({ project, comps, asked }: Props) {
  const cache = useQueryClient();
  const formats = useQuery(queries.deliveryFormats());
  const [changed, setDraft] = useState<OrderDraft>();
  const first = formats.data?.find((f) => f.name === FIRST)?.form;
  const begun = comps.find((c) => c.id === asked?.comp) ?? comps[0];
  const draft = changed ?? (first && { ...startOf(first, begun?.id), rows: asked?.rows ?? "" });
  const only = draft?.comps.length === 1 ? draft.comps[0]! : null;
  const details = useQuery({ ...queries.comp(only ?? 0), enabled: only !== null });
  const count = only === null ? 0 : (details.data?.document.rows.length ?? 0);
  const rows = draft && count > 0 && draft.rows.trim() ? rowsIn(draft.rows, count) : [];
  const body = draft && formats.data && rows !== null ? bodyOf(draft, formats.data, rows) : null;
  const looked = useCheck(project, body);
  const order = useMutation({
    mutationFn: (lossAccepted: boolean) =>
      orderCalls.give(project, { ...body!, loss_accepted: lossAccepted }),
    onSuccess: () =>
      Promise.all([
        cache.invalidateQueries({ queryKey: ["jobs", project] }),
        cache.invalidateQueries({ queryKey: ["order-check", project] }),
      ]),
  });
  const own = useOwn(project, comps, draft);
  if (!draft) return null;
  const refused = order.error ? asProblem(order.error) : null;
  return (
    <form
      className="flex h-full flex-col"
      onSubmit={(event) => {
        event.preventDefault();
        order.mutate(false);
      }}
    >
      <div className="min-h-0 flex-1 space-y-3 overflow-auto p-3">
        <h1 className="font-semibold">{t.orderADelivery}</h1>
        <SourceChoice project={project} comps={comps} draft={draft} onDraft={setDraft} rows={rows} />
        <FormChoice project={project} formats={formats.data ?? []} draft={draft} onDraft={setDraft} />
        <TakeFields draft={draft} onDraft={setDraft} own={own} />
        <PlaceFields draft={draft} onDraft={setDraft} />
        <OrderAdvice
          project={project}
          body={body}
          {...looked}
          onRepair={(repair) => setDraft(repaired(draft, repair))}
        />
      </div>
      <div className="space-y-2 border-t border-line p-3">
        {refused && refused.message !== looked.problem?.message && <ProblemNote problem={refused} />}
        {refused?.code === "would-lose" && (
          <Button disabled={order.isPending} onClick={() => order.mutate(true)} className="w-full">
            {t.deliverItWithoutThatLight}
          </Button>
        )}
        <div className="flex gap-2">
          <Button kind="main" type="submit" disabled={order.isPending || !body} className="flex-1">
            {order.isPending ? t.lookingAtThreeFrames : t.deliver}
          </Button>
          <KeepPreset project={project} draft={draft} />
        </div>
      </div>
    </form>
  );
}

/** Range, rate and size of the only comp or element that goes out. */
function useOwn(project: number, comps: CompRow[], draft: OrderDraft | undefined): Own | null {
  const elements = useQuery(queries.elements(project));
  if (!draft || draft.comps.length + draft.elements.length !== 1) return null;
  const comp = comps.find((c) => c.id === draft.comps[0]);
  if (comp) return comp;
  const element = elements.data?.find((e) => e.id === draft.elements[0]);
  if (!element?.facts) return null;
  const { first, last, width, height } = element.facts;
  return { first, last, width, height, rate: element.rate ?? "25" };
}
