/** Where a step acts and how much: channels, mix, a shape or a channel it goes through, its footing. */
import { changeStep, type Layer, type Step, elementsIn } from "../../../domain/comp";
import { changePart } from "../../../domain/parts";
import { Choose } from "../../../ui/Choose";
import { Tick } from "../../../ui/Tick";
import { AnimatedNumber } from "../AnimatedNumber";
import { HandButton } from "../drawing/HandButton";
import type { DocumentStore } from "../documentStore";
import { MatteEditor } from "../mattes/MatteEditor";
import { Letters } from "./Letters";
import { fieldsOf, footingOf, type StepTable } from "./table";
import { useExtraChannels } from "./useExtraChannels";
import { text } from "../strings";

const t = text.ActsWhere;

interface Props {
  store: DocumentStore;
  layer: Layer;
  step: Step;
  index: number;
  table: StepTable;
}

const BY = [
  { value: "everywhere", label: t.everywhere },
  { value: "ellipse", label: t.inASoftEllipse },
  { value: "rectangle", label: t.inASoftRectangle },
  { value: "channel", label: t.throughItsOwnChannel },
  { value: "matte", label: t.throughAMatte },
];

const CHANNELS = ["alpha", "luma", "red", "green", "blue"].map((value) => ({ value, label: value }));

const SHAPE: [string, [number, number], number, string][] = [
  ["x", [-1000, 1000], 0, "px"],
  ["y", [-1000, 1000], 0, "px"],
  ["width", [0, 3000], 800, "px"],
  ["height", [0, 3000], 600, "px"],
  ["rotation", [-180, 180], 0, "°"],
  ["soft", [0, 1000], 100, "px"],
];

export function actsWhereInWords(step: Step): string {
  const parts = [];
  if (step.extra_channel) parts.push(t.on(step.extra_channel));
  if (step.mix < 1) parts.push(`${Math.round(step.mix * 100)} %`);
  const { by, channel, matte } = step.through;
  // what is inverted twice is as it was: one word for all of it
  const inverted = step.through.inverted !== (by === "matte" && matte.inverted);
  if (by !== "everywhere")
    parts.push(
      `${inverted ? "outside" : "in"} ${by === "channel" ? channel : by === "matte" ? t.itsMatte : t.aSoft(by)}`,
    );
  if (Reflect.get(step, "on_premultiplied")) parts.push("on premultiplied");
  if (Reflect.get(step, "on_straight")) parts.push("on straight");
  return parts.join(", ");
}

/** What a step on code values is mixed in. */
const MIXED = [
  { value: "light", label: t.light },
  { value: "codes", label: t.srgbCodes },
];

/** Stands for R, G, B and A in the list of channels. */
const PICTURE = "picture";

export function ActsWhere({ store, layer, step, index, table }: Props) {
  const { commit } = store.getState();
  const through = step.through;
  const change = (part: object, what: string) => commit((d) => changeStep(d, layer.id, index, part), what);
  const changeThrough = (part: object) =>
    commit((d) => changePart(d, layer.id, { of: "through", index }, part), t.whereActs(table.title));
  const footing = footingOf(table);
  const further = useExtraChannels(elementsIn(layer));
  const known =
    step.extra_channel && !further.includes(step.extra_channel) ? [...further, step.extra_channel] : further;
  const pattern = fieldsOf(table)["channels"]?.pattern ?? "";
  const footingField = footing && fieldsOf(table)[footing];
  return (
    <div className="space-y-0.5 border-t border-line pt-1">
      <Letters
        name={t.channels}
        help={fieldsOf(table)["channels"]?.description}
        letters={pattern.includes("a") ? "rgba" : "rgb"}
        value={step.channels}
        onCommit={(channels) => change({ channels }, t.channelsOf(table.title))}
      />
      {known.length > 0 && !("second" in table.fields) && (
        <div className="flex min-h-7 items-center gap-2">
          <span className="w-20 shrink-0 text-soft" title={fieldsOf(table)["extra_channel"]?.description}>
            {t.orActsOn}
          </span>
          <Choose
            name={t.extraChannelThatActsOn(table.title)}
            value={step.extra_channel || PICTURE}
            options={[
              { value: PICTURE, label: t.thePicture },
              ...known.map((value) => ({ value, label: value })),
            ]}
            onChange={(value) =>
              change({ extra_channel: value === PICTURE ? "" : value }, t.whatActsOn(table.title))
            }
          />
        </div>
      )}
      <AnimatedNumber
        {...{ store, layer }}
        path={{ of: "step", index }}
        field="mix"
        what={t.mixOf(table.title)}
        name={t.mix}
        min={0}
        max={100}
        step={1}
        digits={1}
        slider={[0, 100]}
        rest={1}
        factor={100}
        unit="%"
      />
      {Reflect.get(step, "space") === "codes" && (step.mix < 1 || through.by !== "everywhere") && (
        <div className="flex min-h-7 items-center gap-2">
          <span className="w-20 shrink-0 text-soft" title={fieldsOf(table)["mixed"]?.description}>
            {t.mixedIn}
          </span>
          <Choose
            name={t.whatTheMixOfIs(table.title)}
            value={String(Reflect.get(step, "mixed") ?? "light")}
            options={MIXED}
            onChange={(mixed) => change({ mixed }, t.mixOf2(table.title))}
          />
        </div>
      )}
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">{t.acts}</span>
        <Choose
          name={t.whereActs2(table.title)}
          value={through.by}
          options={BY}
          onChange={(by) => changeThrough(by === "matte" ? { by, inverted: false } : { by })}
        />
      </div>
      {through.by === "channel" && (
        <div className="flex min-h-7 items-center gap-2">
          <span className="w-20 shrink-0 text-soft">{t.channel}</span>
          <Choose
            name={t.channelItGoesThrough}
            value={through.channel}
            options={CHANNELS}
            onChange={(channel) => changeThrough({ channel })}
          />
        </div>
      )}
      {through.by === "matte" && (
        <MatteEditor store={store} layer={layer} step={index} called={t.ofWord(table.title, layer.name)} />
      )}
      <HandButton layer={layer} path={{ of: "through", index }} />
      {(through.by === "ellipse" || through.by === "rectangle") &&
        SHAPE.map(([name, slider, rest, unit]) => (
          <AnimatedNumber
            key={name}
            {...{ store, layer, name, slider, rest, unit }}
            path={{ of: "through", index }}
            field={name}
            what={t.ofWhereActs(name, table.title)}
            min={["x", "y", "rotation"].includes(name) ? -100000 : 0}
            max={100000}
            step={1}
            digits={1}
          />
        ))}
      {/* a matte has an inversion of its own; this one is shown where an older comp has it */}
      {through.by !== "everywhere" && (through.by !== "matte" || through.inverted) && (
        <Tick
          label={t.invertedActsWhereItElse}
          checked={through.inverted}
          onChange={(inverted) => changeThrough({ inverted })}
        />
      )}
      {footing && (
        <Tick
          label={`${footingField?.title}: ${footing === "on_straight" ? t.bringsInWhatLiesPast : t.edgesGoWrongToSee}`}
          help={footingField?.description ?? ""}
          checked={Boolean(Reflect.get(step, footing))}
          onChange={(on) => change({ [footing]: on }, t.footingOf(table.title))}
        />
      )}
    </div>
  );
}
