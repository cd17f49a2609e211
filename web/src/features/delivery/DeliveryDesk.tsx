/** What goes out, how far it is, and the proof. */
import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { asProblem, type DeliveryOut } from "../../api/client";
import { queries } from "../../api/queries";
import { Shell } from "../../parts/Shell";
import { TellMe } from "../../parts/telling";
import { Empty, ProblemNote, Waiting } from "../../ui/basics";
import { DeliveryCard } from "./DeliveryCard";
import { OrderForm } from "./OrderForm";
import { text } from "./strings";

const t = text.DeliveryDesk;

export function DeliveryDesk() {
  const project = Number(useParams()["project"]);
  const [params] = useSearchParams();
  const asked = { comp: Number(params.get("comp")), rows: params.get("rows") ?? "" };
  const deliveries = useQuery(queries.deliveries(project));
  const comps = useQuery(queries.comps(project));
  return (
    <Shell>
      <div className="grid h-full grid-cols-[23rem_minmax(0,1fr)]">
        <section aria-label={t.orderADelivery} className="min-h-0 border-r border-line">
          {comps.data?.length === 0 ? (
            <p className="p-3 text-soft">{t.thereIsNoCompYet}</p>
          ) : (
            comps.data?.[0] && <OrderForm project={project} comps={comps.data} asked={asked} />
          )}
        </section>
        <section aria-label={t.deliveries} className="min-h-0 overflow-auto bg-well p-3">
          {deliveries.isPending && <Waiting what={t.lookingForTheDeliveries} />}
          {deliveries.error && <ProblemNote problem={asProblem(deliveries.error)} />}
          {deliveries.data?.length === 0 && (
            <Empty title={t.nothingDeliveredYet}>{t.orderOneOnTheLeft}</Empty>
          )}
          {(deliveries.data?.length ?? 0) > 0 && (
            <div className="mb-2 flex justify-end">
              <TellMe />
            </div>
          )}
          <ul className="space-y-2">
            {deliveries.data?.map((row, i, rows) => (
              <DeliveryCard
                key={row.id}
                row={row}
                project={project}
                forms={rows[i - 1]?.job.id === row.job.id ? null : formsOf(rows, row)}
              />
            ))}
          </ul>
        </section>
      </div>
    </Shell>
  );
}

/** How many of them one job writes. */
const formsOf = (rows: DeliveryOut[], { job }: DeliveryOut) => rows.filter((r) => r.job.id === job.id).length;
