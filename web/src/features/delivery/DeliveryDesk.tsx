/** What goes out, how far it is, and the proof. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { asProblem } from "../../api/client";
import { queries } from "../../api/queries";
import { Shell } from "../../parts/Shell";
import { Empty, ProblemNote, Waiting } from "../../ui/basics";
import { DeliveryCard } from "./DeliveryCard";
import { OrderForm } from "./OrderForm";

export function DeliveryDesk() {
  const project = Number(useParams()["project"]);
  const deliveries = useQuery(queries.deliveries(project));
  const comps = useQuery(queries.comps(project));
  return (
    <Shell>
      <div className="grid h-full grid-cols-[23rem_minmax(0,1fr)]">
        <section aria-label="Order a delivery" className="min-h-0 overflow-auto border-r border-line p-3">
          <h1 className="mb-2 font-semibold">Order a delivery</h1>
          {comps.data?.length === 0 ? (
            <p className="text-soft">There is no comp yet; make one on the Comp desk.</p>
          ) : (
            comps.data?.[0] && <OrderForm project={project} comps={comps.data} />
          )}
        </section>
        <section aria-label="Deliveries" className="min-h-0 overflow-auto bg-well p-3">
          {deliveries.isPending && <Waiting what="Looking for the deliveries" />}
          {deliveries.error && <ProblemNote problem={asProblem(deliveries.error)} />}
          {deliveries.data?.length === 0 && (
            <Empty title="Nothing delivered yet">
              Order one on the left. It is written in the background; then every file is opened again and
              compared with what was meant.
            </Empty>
          )}
          <ul className="space-y-2">
            {deliveries.data?.map((row) => (
              <DeliveryCard key={row.id} row={row} project={project} />
            ))}
          </ul>
        </section>
      </div>
    </Shell>
  );
}
