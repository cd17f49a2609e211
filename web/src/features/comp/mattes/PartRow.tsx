/** One part of a matte: how it comes in, whose channel it is, and which of its values keep. */
import { ChevronRight, Contrast, Trash2 } from "lucide-react";
import type { Layer } from "../../../domain/comp";
import {
  channelChange,
  withMatte,
  withoutPart,
  withPart,
  type Owner,
  type Part,
} from "../../../domain/mattes";
import { Choose, type Option } from "../../../ui/Choose";
import { SignButton } from "../../../ui/basics";
import { Segments } from "../../../ui/Segments";
import { Tick } from "../../../ui/Tick";
import { AnimatedNumber } from "../AnimatedNumber";
import { useDesk } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { useFurther } from "../steps/useFurther";

interface Props {
  store: DocumentStore;
  layer: Layer;
  owner: Owner;
  part: Part;
  index: number;
  called: string;
  sources: Option[];
  /** Channels that every picture has. */
  picks: string[];
  open: boolean;
  onToggle: () => void;
}

const HOW: { value: Part["how"]; label: string; tip: string }[] = [
  { value: "add", label: "plus", tip: "Kept where either keeps" },
  { value: "subtract", label: "minus", tip: "Taken out of what is there" },
  { value: "intersect", label: "only in", tip: "Kept only where both keep" },
  { value: "exclude", label: "either", tip: "Kept where one of the two keeps, not both" },
];
const NONE = "itself";

export function PartRow(props: Props) {
  const { store, layer, owner, part, index, called, sources, picks, open, onToggle } = props;
  const document = store((s) => s.document);
  const eightBit = useDesk((d) => d.eightBit);
  const taken = part.source.startsWith("layer:")
    ? document.layers.find((l) => `layer:${l.id}` === part.source)?.element
    : part.source || layer.element;
  const further = useFurther(taken);
  const channels = [...picks, ...further.filter((f) => !picks.includes(f))];
  const known = sources.some((s) => s.value === part.source);
  const options = [
    ...sources.map((s) => ({ ...s, value: s.value || NONE })),
    ...(known ? [] : [{ value: part.source, label: `${part.source.replace("layer:", "")}, which is gone` }]),
  ];
  const set = (change: Partial<Part>, what: string) =>
    store
      .getState()
      .commit((d) => withMatte(d, owner, (m) => withPart(m, index, change)), `${what} of ${called}`);
  const coded = part.shape === "ramp" && !further.includes(part.channel);
  const factor = eightBit && coded ? 255 : 1;
  const numbers: [string, number][] = [
    ["low", 0],
    ["high", 1],
    ...(part.shape === "range" ? ([["soft", 0.1]] as [string, number][]) : []),
  ];
  return (
    <section
      aria-label={`Part ${index + 1} of the matte`}
      className="space-y-1 rounded-md border border-line bg-panel px-1.5 py-1"
    >
      <div className="flex items-center gap-1">
        <SignButton name={open ? "Fold" : "Open"} aria-expanded={open} onClick={onToggle}>
          <ChevronRight className={`size-3.5 ${open ? "rotate-90" : ""}`} />
        </SignButton>
        <input
          type="checkbox"
          aria-label={`Part ${index + 1} on`}
          checked={part.on}
          onChange={(event) => set({ on: event.target.checked }, "part of the matte")}
          className="size-4 shrink-0 accent-[var(--accent)]"
        />
        <Segments
          name={`How part ${index + 1} comes in`}
          small
          value={part.how}
          choices={HOW}
          onChange={(how) => set({ how }, "combination in the matte")}
        />
        <SignButton
          name="Take this part out"
          className="ml-auto"
          onClick={() =>
            store
              .getState()
              .commit((d) => withMatte(d, owner, (m) => withoutPart(m, index)), `part off ${called}`)
          }
        >
          <Trash2 className="size-3.5" />
        </SignButton>
      </div>
      <div className="flex items-center gap-1">
        <span className="flex w-[40%] shrink-0">
          <Choose
            name={`Channel of part ${index + 1}`}
            value={part.channel}
            options={[...new Set([...channels, part.channel])].map((c) => ({ value: c, label: c }))}
            live
            onChange={(channel) => set(channelChange(part, channel), "channel of the matte")}
          />
        </span>
        <span className="shrink-0 text-soft">of</span>
        <Choose
          name={`Source of part ${index + 1}`}
          value={part.source || NONE}
          options={options}
          onChange={(source) => set({ source: source === NONE ? "" : source }, "source of the matte")}
        />
        <SignButton
          name="Invert this part"
          aria-pressed={part.inverted}
          className={part.inverted ? "bg-accent-soft text-accent" : ""}
          onClick={() => set({ inverted: !part.inverted }, "inversion in the matte")}
        >
          <Contrast className="size-3.5" />
        </SignButton>
      </div>
      {open && (
        <div className="space-y-0.5 border-t border-line pt-1">
          <Line name="read">
            <Choose
              name="Where the channel is read"
              value={part.read}
              options={[
                { value: "source", label: "as it came" },
                { value: "steps", label: "after its own steps" },
                { value: "placed", label: "as it lies in the comp" },
              ]}
              onChange={(read) => set({ read: read as Part["read"] }, "reading of the matte")}
            />
          </Line>
          <Line name="keeps">
            <Segments
              name="What keeps"
              small
              value={part.shape}
              choices={[
                { value: "ramp", label: "Above", tip: "Nothing up to low, all from high on" },
                { value: "range", label: "Between", tip: "What lies between low and high, with soft ends" },
              ]}
              onChange={(shape) => set({ shape }, "shape of the matte")}
            />
          </Line>
          {numbers.map(([field, rest]) => (
            <AnimatedNumber
              key={field}
              {...{ store, layer, field, rest, factor }}
              path={{ of: "matte", step: owner.step, part: index }}
              what={`${field} of the matte of ${called}`}
              name={field}
              min={field === "soft" ? 0 : -1e6}
              max={1e6}
              step={factor === 255 ? 1 : 0.005}
              digits={3}
              slider={[0, factor]}
            />
          ))}
          {part.channel !== "alpha" && picks.includes(part.channel) && (
            <Line name="values of">
              <Segments
                name="Values of"
                small
                value={part.space}
                choices={[
                  { value: "codes", label: "sRGB codes" },
                  { value: "light", label: "Light" },
                ]}
                onChange={(space) => set({ space }, "values of the matte")}
              />
            </Line>
          )}
          {part.channel === "luma" && (
            <Line name="luma by">
              <Choose
                name="Luma by"
                value={part.weights}
                options={[
                  { value: "bt601", label: "BT.601" },
                  { value: "bt709", label: "BT.709" },
                  { value: "bt2020", label: "BT.2020" },
                  { value: "mean", label: "plain mean" },
                ]}
                onChange={(weights) => set({ weights: weights as Part["weights"] }, "luma of the matte")}
              />
            </Line>
          )}
          <Tick
            label="centred instead of stretched where sizes differ"
            checked={part.fit === "centre"}
            onChange={(on) => set({ fit: on ? "centre" : "stretch" }, "fit of the matte")}
          />
        </div>
      )}
    </section>
  );
}

function Line({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-20 shrink-0 text-soft">{name}</span>
      {children}
    </div>
  );
}
