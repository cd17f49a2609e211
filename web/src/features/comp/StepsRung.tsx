/** The steps of a layer; their controls follow from the parameters' own titles, ranges and units. */
import { useQuery } from "@tanstack/react-query";
import { ArrowDown, ArrowUp, Plus, Trash2 } from "lucide-react";
import { DropdownMenu, ToggleGroup } from "radix-ui";
import { memo } from "react";
import type { Tables } from "../../api/client";
import { queries } from "../../api/queries";
import { changeLayer, changeStep, type CompDocument, type Layer, type Step } from "../../domain/comp";
import { Button, SignButton } from "../../ui/basics";
import { NumberField } from "../../ui/NumberField";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";

interface Field {
  title?: string;
  description?: string;
  type?: string;
  default?: unknown;
  minimum?: number;
  maximum?: number;
  unit?: string;
  slider?: [number, number];
}

type StepTable = Tables["steps"][number];

export function stepsInWords(layer: Layer): string {
  const on = layer.steps.filter((s) => s.on);
  if (layer.steps.length === 0) return "none";
  return `${layer.steps.map((s) => s.kind).join(", ")}${on.length < layer.steps.length ? ` (${on.length} on)` : ""}`;
}

export function StepsRung({ store, layer }: { store: DocumentStore; layer: Layer }) {
  const tables = useQuery(queries.tables());
  const { commit } = store.getState();
  const eightBit = useDesk((d) => d.eightBit);
  const set = useDesk((d) => d.set);
  const setSteps = (steps: Step[], what: string) => commit((d) => changeLayer(d, layer.id, { steps }), what);
  return (
    <div className="space-y-2">
      {layer.steps.map((step, index) => {
        const table = tables.data?.steps.find((t) => t.kind === step.kind);
        return (
          table && (
            <StepEditor key={index} store={store} layer={layer} step={step} index={index} table={table} />
          )
        );
      })}
      <div className="flex items-center justify-between gap-2">
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button>
              <Plus className="size-3.5" /> Add a step
            </Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="start"
              className="z-50 w-72 rounded-md border border-line bg-card p-1 shadow-lg"
            >
              {tables.data?.steps.map((t) => (
                <DropdownMenu.Item
                  key={t.kind}
                  onSelect={() => setSteps([...layer.steps, newStep(t)], `${t.title} on ${layer.name}`)}
                  className="rounded px-2 py-1.5 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none"
                >
                  <span className="font-medium">{t.title}</span> <span className="text-soft">{t.help}</span>
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <label className="flex items-center gap-1.5 text-soft">
          <input
            type="checkbox"
            checked={eightBit}
            onChange={(event) => set({ eightBit: event.target.checked })}
            className="size-3.5 accent-[var(--accent)]"
          />
          values as 0 to 255
        </label>
      </div>
    </div>
  );
}

function newStep(table: StepTable): Step {
  const fields = table.fields as Record<string, Field>;
  return Object.fromEntries(
    Object.entries(fields).map(([key, field]) => [key, field.default]),
  ) as unknown as Step;
}

interface EditorProps {
  store: DocumentStore;
  layer: Layer;
  step: Step;
  index: number;
  table: StepTable;
}

function StepEditor({ store, layer, step, index, table }: EditorProps) {
  const { commit } = store.getState();
  const fields = Object.entries(table.fields as Record<string, Field>).filter(
    ([key]) => key !== "kind" && key !== "on",
  );
  const value = step as unknown as Record<string, unknown>;
  const change = (part: object, what: string) => commit((d) => changeStep(d, layer.id, index, part), what);
  const reorder = (to: number) => {
    const steps = [...layer.steps];
    steps.splice(to, 0, ...steps.splice(index, 1));
    commit((d) => changeLayer(d, layer.id, { steps }), `order of steps on ${layer.name}`);
  };
  return (
    <section
      aria-label={`Step ${index + 1}, ${table.title}`}
      className="rounded-md border border-line px-2 py-1.5"
    >
      <div className="flex items-center gap-1">
        <label className="flex min-w-0 flex-1 items-center gap-1.5 font-medium" title={table.help}>
          <input
            type="checkbox"
            aria-label={`${table.title} on`}
            checked={step.on}
            onChange={(event) =>
              change({ on: event.target.checked }, `${table.title} ${event.target.checked ? "on" : "off"}`)
            }
            className="size-4 accent-[var(--accent)]"
          />
          {table.title}
        </label>
        <SignButton name="Earlier" disabled={index === 0} onClick={() => reorder(index - 1)}>
          <ArrowUp className="size-3.5" />
        </SignButton>
        <SignButton
          name="Later"
          disabled={index === layer.steps.length - 1}
          onClick={() => reorder(index + 1)}
        >
          <ArrowDown className="size-3.5" />
        </SignButton>
        <SignButton
          name="Take this step out"
          onClick={() =>
            commit(
              (d) => changeLayer(d, layer.id, { steps: layer.steps.filter((_, i) => i !== index) }),
              `${table.title} off ${layer.name}`,
            )
          }
        >
          <Trash2 className="size-3.5" />
        </SignButton>
      </div>
      <div className="space-y-0.5 pt-1">
        {fields.map(([key, field]) =>
          field.unit === "channels" ? (
            <Letters
              key={key}
              field={field}
              value={String(value[key])}
              onCommit={(v) => change({ [key]: v }, `${field.title} of ${table.title}`)}
            />
          ) : (
            <StepNumber
              key={key}
              name={key}
              field={field}
              value={Number(value[key])}
              store={store}
              layer={layer.id}
              index={index}
              title={table.title}
            />
          ),
        )}
      </div>
    </section>
  );
}

interface NumberProps {
  name: string;
  field: Field;
  value: number;
  store: DocumentStore;
  layer: string;
  index: number;
  title: string;
}

/** One number of a step; code values may be shown as 0 to 255. Rendered again only when it changes. */
const StepNumber = memo(function StepNumber(props: NumberProps) {
  const { name, field, value, store, layer, index, title } = props;
  const { sketch, commit } = store.getState();
  const edit = (v: number) => (d: CompDocument) => changeStep(d, layer, index, { [name]: v / factor });
  const eightBit = useDesk((d) => d.eightBit) && field.unit === "code";
  const factor = eightBit ? 255 : 1;
  const ends = field.slider ?? [field.minimum ?? 0, field.maximum ?? 1];
  const times = (v: number | undefined) => (v === undefined ? {} : { v: v * factor });
  const limits = { min: times(field.minimum).v, max: times(field.maximum).v };
  return (
    <NumberField
      name={field.title ?? ""}
      help={field.description}
      value={value * factor}
      {...limits}
      step={eightBit ? 1 : 0.01}
      digits={eightBit ? 1 : 3}
      slider={[ends[0] * factor, ends[1] * factor]}
      rest={Number(field.default) * factor}
      onDraft={(v) => sketch(edit(v))}
      onCommit={(v) => commit(edit(v), `${field.title} of ${title}`)}
    />
  );
});

const LETTERS = ["r", "g", "b", "a"];

function Letters({
  field,
  value,
  onCommit,
}: {
  field: Field;
  value: string;
  onCommit: (value: string) => void;
}) {
  const colours: Record<string, string> = { r: "text-red", g: "text-green", b: "text-blue", a: "" };
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-20 text-soft" title={field.description}>
        {field.title}
      </span>
      <ToggleGroup.Root
        type="multiple"
        aria-label={field.title ?? ""}
        value={LETTERS.filter((c) => value.includes(c))}
        onValueChange={(next) =>
          next.length > 0 && onCommit(LETTERS.filter((c) => next.includes(c)).join(""))
        }
        className="inline-flex overflow-hidden rounded-md border border-line"
      >
        {LETTERS.map((letter) => (
          <ToggleGroup.Item
            key={letter}
            value={letter}
            className={`border-r border-line px-2.5 py-0.5 font-medium last:border-r-0 data-[state=off]:opacity-45 data-[state=on]:bg-accent-soft ${colours[letter]}`}
          >
            {letter.toUpperCase()}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
