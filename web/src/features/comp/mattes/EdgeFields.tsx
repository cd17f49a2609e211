/** The edge of a matte: as its parts make it or found in the picture; and the colour of what is kept in part. */
import type { Layer } from "../../../domain/comp";
import type { Matte, OwnerStep } from "../../../domain/mattes";
import { Choose, type Option } from "../../../ui/Choose";
import { AnimatedNumber } from "../AnimatedNumber";
import type { DocumentStore } from "../documentStore";
import { text } from "../strings";
import { EdgeFrames } from "./EdgeFrames";
import { Line } from "./kinds/fields";

const t = text.EdgeFields;

const MADE: Option[] = [
  { value: "made", label: t.asMade },
  { value: "natural", label: t.foundInThePicture, help: t.alphaMattingWithinABand },
];

/** What the edge is found by. */
const NUMBERS = [
  {
    field: "band",
    name: t.band,
    help: t.howFarFromItsEdge,
    min: 0.5,
    max: 200,
    slider: [0.5, 30] as [number, number],
    unit: "px",
    step: 0.5,
    digits: 1,
    rest: 3,
  },
  {
    field: "trust",
    name: t.trust,
    help: t.howMuchTheRoughMatte,
    min: 0,
    max: 1,
    slider: [0, 0.02] as [number, number],
    step: 0.001,
    digits: 4,
    rest: 0.001,
  },
];

/** Where soft edges take their colour from; the last one needs a key of the layer itself. */
const COLOURS: Option[] = [
  { value: "plain", label: t.asItIs },
  { value: "inside", label: t.fromInside, help: t.thatOfWhatIsKept },
  { value: "front", label: t.freedOfWhatLayBehind, help: t.takesOutWhatIsSeen },
  { value: "screen", label: t.removeScreenColour, help: t.takesTheScreensLightOut },
];

interface Props {
  store: DocumentStore;
  layer: Layer;
  step: OwnerStep;
  called: string;
  matte: Matte;
  change: (edit: (matte: Matte) => Matte, what: string) => void;
}

export function EdgeFields({ store, layer, step, called, matte, change }: Props) {
  const path = { of: "matte", step, part: null } as const;
  return (
    <>
      <Line name={t.edge} help={t.whereTheMatteGoesFrom}>
        <Choose
          name={t.edge2}
          live
          value={matte.edge}
          options={MADE}
          onChange={(edge) => change((m) => ({ ...m, edge: edge as Matte["edge"] }), t.edgeOf(called))}
        />
      </Line>
      {matte.edge === "natural" && (
        <>
          <p className="text-soft">{t.whatIsWhiteIsKept}</p>
          {NUMBERS.map(({ name, ...number }) => (
            <AnimatedNumber
              key={number.field}
              {...{ store, layer, path, name, ...number }}
              what={t.of(name, called)}
            />
          ))}
          <EdgeFrames {...{ store, layer, step }} />
        </>
      )}
    </>
  );
}

export function EdgeColour({ called, matte, change }: Omit<Props, "store" | "layer" | "step">) {
  const keyed = matte.parts.some((p) => p.kind === "key" && p.by === "screen" && !p.source);
  return (
    <Line name={t.edgeColour} help={t.theColourOfWhatIs}>
      <Choose
        name={t.edgeColour2}
        live
        value={matte.edge_colour}
        options={keyed ? COLOURS : COLOURS.filter((e) => e.value !== "screen")}
        onChange={(colour) =>
          change((m) => ({ ...m, edge_colour: colour as Matte["edge_colour"] }), t.edgeColourOf(called))
        }
      />
    </Line>
  );
}
