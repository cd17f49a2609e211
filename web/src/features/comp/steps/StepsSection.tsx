/** The steps of a layer, in the order in which they are done. */
import { useQuery } from "@tanstack/react-query";
import { Copy } from "lucide-react";
import { memo, useCallback, useRef, useState } from "react";
import { queries } from "../../../api/queries";
import { changeSteps, layerOf, type Layer, type Step } from "../../../domain/comp";
import { Button, SignButton } from "../../../ui/basics";
import { Tick } from "../../../ui/Tick";
import { moved, useReorder } from "../../../ui/useReorder";
import { useDeskFields } from "../deskState";
import { MatchButton, MatchPanel } from "../matching/MatchPanel";
import type { DocumentStore } from "../documentStore";
import { AddStep } from "./AddStep";
import { StepPresets } from "./StepPresets";
import { StepCard } from "./StepCard";
import { UnknownStep } from "./UnknownStep";
import { newStep, type StepTable } from "./table";
import { text } from "../strings";

const t = text.StepsSection;

/** So many stand open from the start; of longer lists only what is opened. */
const FEW = 2;

export function stepsInWords(layer: Layer): string {
  const on = layer.steps.filter((s) => s.on);
  if (layer.steps.length === 0) return "none";
  const names = layer.steps.map((s) => s.kind.replaceAll("_", " ")).join(", ");
  return `${names}${on.length < layer.steps.length ? t.on2(on.length) : ""}`;
}

export function StepsSection({
  store,
  layer,
  project,
  comp,
}: {
  store: DocumentStore;
  layer: Layer;
  project: number;
  comp: number;
}) {
  const tables = useQuery(queries.tables());
  // opened or closed by hand; of few all stand open
  const [open, setOpen] = useState<readonly (boolean | undefined)[]>([]);
  const list = useRef<HTMLDivElement>(null);
  const { id } = layer;
  const count = layer.steps.length;
  const isOpen = (i: number) => open[i] ?? count <= FEW;
  const toggle = useCallback(
    (index: number) =>
      setOpen((now) => {
        const next = [...now];
        next[index] = !(now[index] ?? count <= FEW);
        return next;
      }),
    [count],
  );
  const move = useCallback(
    (from: number, to: number) => {
      if (from === to) return;
      setOpen((now) =>
        moved(
          Array.from({ length: count }, (_, i) => now[i] ?? count <= FEW),
          from,
          to,
        ),
      );
      const { commit, document } = store.getState();
      const name = layerOf(document, id)?.name ?? id;
      commit((d) => changeSteps(d, id, (steps) => moved(steps, from, to)), t.orderOfStepsOn(name));
    },
    [store, id, count],
  );
  const added = useCallback(
    (at: number) => setOpen((now) => Array.from({ length: at + 1 }, (_, i) => (i < at ? now[i] : true))),
    [],
  );
  const { drag, begin } = useReorder(list, "y", move);
  const order = layer.steps.map((_, i) => i);
  return (
    <div className="space-y-1.5">
      <div ref={list} className="space-y-1">
        {(drag ? moved(order, drag.from, drag.to) : order).map((index) => {
          const step = layer.steps[index]!;
          const table = tables.data?.steps.find((t) => t.kind === step.kind);
          if (tables.data && !table)
            return <UnknownStep key={index} store={store} layer={id} step={step} index={index} />;
          return (
            table && (
              <StepCard
                key={index}
                {...{ store, layer, step, index, table }}
                open={isOpen(index) && !drag}
                dragged={drag?.from === index}
                onToggle={toggle}
                onGrip={begin}
                onMove={move}
              />
            )
          );
        })}
      </div>
      <StepsFoot
        {...{ store, project, id }}
        tables={tables.data?.steps ?? NO_STEPS}
        any={count > 0}
        onAdded={added}
      />
      <MatchPanel {...{ store, comp, layer }} />
    </div>
  );
}

const NO_STEPS: StepTable[] = [];

interface FootProps {
  store: DocumentStore;
  project: number;
  /** The layer's. */
  id: string;
  tables: StepTable[];
  any: boolean;
  /** A step was added by hand at this place. */
  onAdded: (at: number) => void;
}

/** Adding, keeping and copying; not drawn again while a number is dragged. */
const StepsFoot = memo(function StepsFoot({ store, project, id, tables, any, onAdded }: FootProps) {
  const { eightBit, copied, set } = useDeskFields("eightBit", "copied", "set");
  const elements = useQuery(queries.elements(project));
  const steps = () => layerOf(store.getState().document, id)?.steps ?? [];
  const add = (more: Step[], what: string) => {
    const { commit, document } = store.getState();
    const name = layerOf(document, id)?.name ?? id;
    commit((d) => changeSteps(d, id, (now) => [...now, ...more]), t.on(what, name));
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-1.5">
        <AddStep
          steps={tables}
          onAdd={(t) => {
            onAdded(steps().length);
            const behind = store.getState().document.layers.find((l) => l.id !== id);
            const layer = layerOf(store.getState().document, id);
            const element = elements.data?.find((e) => layer?.kind === "element" && e.key === layer.element);
            add([newStep(t, behind?.id, element)], t.title);
          }}
        />
        <MatchButton store={store} id={id} />
        <StepPresets project={project} steps={steps} onUse={add} />
        {any && (
          <SignButton name={t.copyAllSteps} onClick={() => set({ copied: steps() })}>
            <Copy className="size-3.5" />
          </SignButton>
        )}
        {copied.length > 0 && (
          <Button onClick={() => add(copied, t.copiedSteps2(copied.length))}>
            {t.put}
            {copied.length === 1 ? t.theCopiedStep : t.copiedSteps(copied.length)}
            {t.here}
          </Button>
        )}
      </div>
      <Tick label={t.valuesAs0To255} checked={eightBit} onChange={(on) => set({ eightBit: on })} />
    </>
  );
});
