/** A channel and which of its values keep, with their histogram over the handles. */
import { elementsOfSource } from "../../../../domain/comp";
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
import { text } from "../../strings";

const t = text.ChannelFields;

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
      <ReadLine value={part.read} onChange={(read) => set({ read }, t.readingOfTheMatte)} />
      <Line name={t.keeps}>
        <Segments
          name={t.whatKeeps}
          small
          value={part.shape}
          choices={[
            { value: "ramp", label: t.above, tip: t.nothingUpToLowAll },
            { value: "range", label: t.between, tip: t.whatLiesBetweenLowAnd },
          ]}
          onChange={(shape) => set({ shape }, t.shapeOfTheMatte)}
        />
        <Button
          className="ml-auto min-h-6 px-1.5 py-0"
          title={t.channelBoardMarkWhatStays}
          onClick={() =>
            useDesk.setState({
              board: { owner, part: index, source: part.source },
              tool: { kind: "regions", owner, what: "stay" },
              matteShown: null,
            })
          }
        >
          {t.board}
        </Button>
      </Line>
      <Values {...{ store, layer, owner, part, index }} />
      {number("low", 0)}
      {number("high", 1)}
      {part.shape === "range" && number("soft", 0.1, 0)}
      {part.shape === "ramp" && (
        <Line name={t.levels} help={t.twoGentlePassesAreAs}>
          <Segments
            name={t.passesOfLevels}
            small
            value={String(part.passes) as "1" | "2"}
            choices={[
              { value: "1", label: t.onePass, tip: t.straightFromLowToHigh },
              {
                value: "2",
                label: t.twoGentle,
                tip: t.twiceFromFurtherOutSoft,
              },
            ]}
            onChange={(passes) => set({ passes: Number(passes) as 1 | 2 }, t.passesOfLevels2)}
          />
        </Line>
      )}
      {coded && (
        <Line name={t.valuesOf}>
          <Segments
            name={t.valuesOf2}
            small
            value={part.space}
            choices={[
              { value: "codes", label: t.srgbCodes },
              { value: "light", label: t.light },
            ]}
            onChange={(space) => set({ space }, t.valuesOfTheMatte)}
          />
        </Line>
      )}
      {part.channel === "luma" && (
        <Line name={t.lumaBy}>
          <Choose
            name={t.lumaBy2}
            value={part.weights}
            options={[
              { value: "bt601", label: t.bt601 },
              { value: "bt709", label: t.bt709 },
              { value: "bt2020", label: t.bt2020 },
              { value: "mean", label: t.plainMean },
            ]}
            onChange={(weights) => set({ weights: weights as typeof part.weights }, t.lumaOfTheMatte)}
          />
        </Line>
      )}
      <Tick
        label={t.centredInsteadOfStretchedWhere}
        checked={part.fit === "centre"}
        onChange={(on) => set({ fit: on ? "centre" : "stretch" }, t.fitOfTheMatte)}
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
      name: t.ofPart(field, index + 1),
      value: held((value - from) / span, 0, 1),
      sign: field === "low" ? "fill-[#000]" : "fill-[#fff]",
      says: trimmed(value, 3),
      set: (at: number, done: boolean) => {
        const edit = numberEdit(layer.id, path, field, Math.round((from + at * span) * 1e4) / 1e4);
        if (done) store.getState().commit(edit, t.ofTheMatte(field));
        else store.getState().sketch(edit);
      },
    };
  };
  const heights = counts.map(Math.sqrt);
  return (
    <div className="pb-1">
      <svg
        role="img"
        aria-label={t.valuesOfTo(part.channel, trimmed(from, 2), trimmed(to, 2))}
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
  const further = useExtraChannels(elementsOfSource({ layers }, part.source, layer));
  const channels = [...new Set([...picks, ...further, part.channel])];
  return (
    <Choose
      name={t.channelOfPart(index + 1)}
      value={part.channel}
      options={channels.map((c) => ({ value: c, label: c }))}
      live
      onChange={onChannel}
    />
  );
}
