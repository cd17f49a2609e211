/** The steps of a layer, in the order in which they are done. */
import { useQuery } from "@tanstack/react-query";
import { Copy } from "lucide-react";
import { useRef, useState } from "react";
import { queries } from "../../../api/queries";
import { changeLayer, type Layer, type Step } from "../../../domain/comp";
import { Button, SignButton } from "../../../ui/basics";
import { Tick } from "../../../ui/Tick";
import { moved, useReorder } from "../../../ui/useReorder";
import { useDesk } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { AddStep } from "./AddStep";
import { KeptSteps } from "./KeptSteps";
import { StepCard } from "./StepCard";
import { newStep } from "./table";

/** So many stand open from the start; of longer lists only what is opened. */
const FEW = 2;

export function stepsInWords(layer: Layer): string {
  const on = layer.steps.filter((s) => s.on);
  if (layer.steps.length === 0) return "none";
  const names = layer.steps.map((s) => s.kind.replaceAll("_", " ")).join(", ");
  return `${names}${on.length < layer.steps.length ? ` (${on.length} on)` : ""}`;
}

export function StepsRung({
  store,
  layer,
  project,
}: {
  store: DocumentStore;
  layer: Layer;
  project: number;
}) {
  const tables = useQuery(queries.tables());
  const { commit } = store.getState();
  const { eightBit, copied, set } = useDesk();
  const [open, setOpen] = useState<Record<number, boolean>>({});
  const list = useRef<HTMLDivElement>(null);
  const setSteps = (steps: Step[], what: string) => commit((d) => changeLayer(d, layer.id, { steps }), what);
  const isOpen = (i: number) => open[i] ?? layer.steps.length <= FEW;
  const move = (from: number, to: number) => {
    if (from === to) return;
    const order = moved(
      layer.steps.map((_, i) => isOpen(i)),
      from,
      to,
    );
    setOpen(Object.fromEntries(order.entries()));
    setSteps(moved(layer.steps, from, to), `order of steps on ${layer.name}`);
  };
  const { drag, begin } = useReorder(list, "y", move);
  const order = layer.steps.map((_, i) => i);
  return (
    <div className="space-y-1.5">
      <div ref={list} className="space-y-1">
        {(drag ? moved(order, drag.from, drag.to) : order).map((index) => {
          const step = layer.steps[index]!;
          const table = tables.data?.steps.find((t) => t.kind === step.kind);
          return (
            table && (
              <StepCard
                key={index}
                {...{ store, layer, step, index, table }}
                open={isOpen(index) && !drag}
                dragged={drag?.from === index}
                onToggle={() => setOpen({ ...open, [index]: !isOpen(index) })}
                onGrip={begin}
                onMove={move}
              />
            )
          );
        })}
      </div>
      <div className="flex flex-wrap items-center gap-1.5">
        <AddStep
          steps={tables.data?.steps ?? []}
          onAdd={(t) => {
            setOpen({ ...open, [layer.steps.length]: true });
            setSteps([...layer.steps, newStep(t)], `${t.title} on ${layer.name}`);
          }}
        />
        <KeptSteps
          project={project}
          steps={layer.steps}
          onUse={(steps, name) => setSteps([...layer.steps, ...steps], `${name} on ${layer.name}`)}
        />
        {layer.steps.length > 0 && (
          <SignButton name="Copy all steps" onClick={() => set({ copied: layer.steps })}>
            <Copy className="size-3.5" />
          </SignButton>
        )}
        {copied.length > 0 && (
          <Button
            onClick={() =>
              setSteps([...layer.steps, ...copied], `${copied.length} copied steps on ${layer.name}`)
            }
          >
            Put {copied.length === 1 ? "the copied step" : `${copied.length} copied steps`} here
          </Button>
        )}
      </div>
      <Tick label="values as 0 to 255" checked={eightBit} onChange={(on) => set({ eightBit: on })} />
    </div>
  );
}
