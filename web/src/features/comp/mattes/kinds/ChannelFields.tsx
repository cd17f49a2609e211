/** A channel and which of its values keep, with their histogram over the handles. */
import { useQuery } from "@tanstack/react-query";
import { compCalls } from "../../../../api/comps";
import { numberAt } from "../../../../domain/parts";
import { trimmed } from "../../../../domain/words";
import { Button } from "../../../../ui/basics";
import { Choose } from "../../../../ui/Choose";
import { Segments } from "../../../../ui/Segments";
import { Tick } from "../../../../ui/Tick";
import { pointsOf } from "../../../../parts/plots";
import { useDesk } from "../../deskState";
import { numberEdit } from "../../numberEdit";
import { held, Track } from "../../Track";
import { useExtraChannels } from "../../steps/useExtraChannels";
import { Line, PartNumber, ReadLine, type FieldsProps } from "./fields";

export function ChannelFields(props: FieldsProps<"channel"> & { picks: string[] }) {
  const { store, layer, owner, part, index, set, picks } = props;
  const eightBit = useDesk((d) => d.eightBit);
  const coded = picks.includes(part.channel) && part.channel !== "alpha";
  const factor = eightBit && picks.includes(part.channel) ? 255 : 1;
  const number = (name: string, rest: number, min = -1e6) => (
    <PartNumber
      of={props}
      field={name}
      {...{ name, rest, min, factor }}
      max={1e6}
      step={factor === 255 ? 1 : 0.005}
      digits={3}
      slider={[0, factor]}
    />
  );
  return (
    <>
      <ReadLine value={part.read} onChange={(read) => set({ read }, "reading of the matte")} />
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
        <Button
          className="ml-auto min-h-6 px-1.5 py-0"
          title="Channel board: mark what stays and what goes, and see which channel tells them apart best"
          onClick={() =>
            useDesk.setState({
              board: { owner, part: index, source: part.source },
              tool: { kind: "regions", owner, what: "stay" },
              matteShown: null,
            })
          }
        >
          Board
        </Button>
      </Line>
      <Values {...{ store, layer, owner, part, index }} />
      {number("low", 0)}
      {number("high", 1)}
      {part.shape === "range" && number("soft", 0.1, 0)}
      {part.shape === "ramp" && (
        <Line name="levels" help="Two gentle passes are as steep in the middle, with soft shoulders">
          <Segments
            name="Passes of levels"
            small
            value={String(part.passes) as "1" | "2"}
            choices={[
              { value: "1", label: "One pass", tip: "Straight from low to high" },
              {
                value: "2",
                label: "Two gentle",
                tip: "Twice, from further out: soft shoulders keep thin stems",
              },
            ]}
            onChange={(passes) => set({ passes: Number(passes) as 1 | 2 }, "passes of levels")}
          />
        </Line>
      )}
      {coded && (
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
            onChange={(weights) => set({ weights: weights as typeof part.weights }, "luma of the matte")}
          />
        </Line>
      )}
      <Tick
        label="centred instead of stretched where sizes differ"
        checked={part.fit === "centre"}
        onChange={(on) => set({ fit: on ? "centre" : "stretch" }, "fit of the matte")}
      />
    </>
  );
}

type ValueProps = Pick<FieldsProps<"channel">, "store" | "layer" | "owner" | "part" | "index">;

/** How often each value is there, and low and high as beads under it. */
function Values({ store, layer, owner, part, index }: ValueProps) {
  const frame = useDesk((d) => d.frame);
  const comp = store((s) => s.comp);
  // what the levels make of it changes nothing below them
  const asked = {
    ...part,
    low: 0,
    high: 1,
    soft: 0.1,
    keys: {},
    on: true,
    combine: "add",
    passes: 1,
  } as const;
  const got = useQuery({
    queryKey: ["part-values", comp.id, comp.revision, layer.id, frame, JSON.stringify(asked)],
    queryFn: ({ signal }) => compCalls.partValues(comp.id, { frame, layer: layer.id, part: asked }, signal),
    placeholderData: (before) => before,
    retry: false,
  });
  if (!got.data) return null;
  const { low: from, high: to, counts } = got.data;
  const span = to - from || 1;
  const path = { of: "matte", step: owner.step, part: index } as const;
  const bead = (field: "low" | "high") => {
    const value = numberAt(part, field, frame);
    return {
      name: `${field} of part ${index + 1}`,
      value: held((value - from) / span, 0, 1),
      sign: field === "low" ? "fill-[#000]" : "fill-[#fff]",
      says: trimmed(value, 3),
      set: (at: number, done: boolean) => {
        const edit = numberEdit(layer.id, path, field, Math.round((from + at * span) * 1e4) / 1e4);
        if (done) store.getState().commit(edit, `${field} of the matte`);
        else store.getState().sketch(edit);
      },
    };
  };
  const heights = counts.map(Math.sqrt);
  return (
    <div className="pb-1">
      <svg
        role="img"
        aria-label={`Values of ${part.channel}, ${trimmed(from, 2)} to ${trimmed(to, 2)}`}
        viewBox="0 0 1000 100"
        preserveAspectRatio="none"
        className="h-10 w-full rounded border border-line bg-card"
      >
        <polyline
          points={pointsOf(heights, 0, Math.max(1, ...heights.slice(1, -1)))}
          fill="none"
          className="stroke-ink"
          strokeWidth={1.3}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <Track handles={[bead("low"), bead("high")]} />
    </div>
  );
}

/** The row that says whose channel it is. */
export function ChannelChoice(
  props: FieldsProps<"channel"> & { picks: string[]; onChannel: (c: string) => void },
) {
  const { store, layer, part, index, picks, onChannel } = props;
  const layers = store((s) => s.document.layers);
  const taken = part.source.startsWith("layer:")
    ? layers.find((l) => `layer:${l.id}` === part.source)?.element
    : part.source || layer.element;
  const further = useExtraChannels(taken);
  const channels = [...new Set([...picks, ...further, part.channel])];
  return (
    <Choose
      name={`Channel of part ${index + 1}`}
      value={part.channel}
      options={channels.map((c) => ({ value: c, label: c }))}
      live
      onChange={onChannel}
    />
  );
}
