/** One part of a matte: how it comes in, what it is made from, and what of that keeps. */
import { ChevronRight, Contrast, Eye, Trash2 } from "lucide-react";
import type { Layer } from "../../../domain/comp";
import {
  channelChange,
  withMatte,
  withoutPart,
  withPart,
  type Owner,
  type Part,
  type PartChange,
} from "../../../domain/mattes";
import { Choose, type Option } from "../../../ui/Choose";
import { SignButton } from "../../../ui/basics";
import { Segments } from "../../../ui/Segments";
import { useDesk } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { FrameLimits } from "../FrameLimits";
import { ChannelChoice, ChannelFields } from "./kinds/ChannelFields";
import { KeyFields } from "./kinds/KeyFields";
import { ModelFields } from "./kinds/ModelFields";
import { ObjectFields } from "./kinds/ObjectFields";
import { PaintFields } from "./kinds/PaintFields";
import { ShapeFields } from "./kinds/ShapeFields";
import { SourceChoice, type FieldsProps } from "./kinds/fields";
import { showMatte } from "./showing";

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

const HOW: Option[] = [
  { value: "add", label: "add", help: "Kept where either keeps" },
  { value: "subtract", label: "subtract", help: "Removed from what is kept so far" },
  { value: "intersect", label: "intersect", help: "Kept only where both keep" },
  { value: "exclude", label: "exclude", help: "Kept where one of the two keeps, not where both do" },
];

export function PartRow(props: Props) {
  const { store, layer, owner, part, index, called, sources, picks, open, onToggle } = props;
  const shown = useDesk((d) => d.matteShown);
  const { commit, document } = store.getState();
  const set = (change: PartChange, what: string) =>
    commit((d) => withMatte(d, owner, (m) => withPart(m, index, change)), `${what} of ${called}`);
  const alone = shown?.part === index && shown.owner.layer === owner.layer && shown.owner.step === owner.step;
  return (
    <section
      aria-label={`Part ${index + 1} of the matte`}
      className="space-y-1 rounded-md border border-line bg-panel px-1 py-1"
    >
      <div className="flex min-w-0 items-center gap-0.5">
        <SignButton
          name={open ? "Fold" : "Open"}
          aria-expanded={open}
          className="!min-w-5 shrink-0 !px-0"
          onClick={onToggle}
        >
          <ChevronRight className={`size-3.5 ${open ? "rotate-90" : ""}`} />
        </SignButton>
        <input
          type="checkbox"
          aria-label={`Part ${index + 1} on`}
          checked={part.on}
          onChange={(event) => set({ on: event.target.checked }, "part of the matte")}
          className="mr-1 size-4 shrink-0 accent-[var(--accent)]"
        />
        {part.kind === "paint" ? (
          <span className="truncate text-soft">paint, over what is above</span>
        ) : (
          <Choose
            name={`How part ${index + 1} is combined`}
            live
            value={part.combine}
            options={HOW}
            onChange={(combine) => set({ combine: combine as Part["combine"] }, "combination in the matte")}
          />
        )}
        <SignButton
          name={alone ? "Look at the picture again" : "Look at this part alone"}
          aria-pressed={alone}
          className={`ml-auto !min-w-6 shrink-0 !px-0 ${alone ? "bg-accent-soft text-accent" : ""}`}
          onClick={() => showMatte(alone ? null : { owner, part: index }, alone ? "colour" : "alpha")}
        >
          <Eye className="size-3.5" />
        </SignButton>
        <SignButton
          name="Take this part out"
          className="!min-w-6 shrink-0 !px-0"
          onClick={() => {
            useDesk.setState({ tool: null, matteShown: null });
            commit((d) => withMatte(d, owner, (m) => withoutPart(m, index)), `part off ${called}`);
          }}
        >
          <Trash2 className="size-3.5" />
        </SignButton>
      </div>
      {part.kind !== "paint" && (
        <div className="flex items-center gap-1">
          {part.kind === "channel" && (
            <>
              <span className="flex w-[40%] shrink-0">
                <ChannelChoice
                  {...{ store, layer, owner, part, index, called, sources, set, picks }}
                  onChannel={(channel) => set(channelChange(part, channel), "channel of the matte")}
                />
              </span>
              <span className="shrink-0 text-soft">of</span>
            </>
          )}
          {part.kind === "shape" && (
            <Segments
              name={`Shape of part ${index + 1}`}
              small
              value={part.shape}
              choices={[
                { value: "ellipse", label: "Ellipse" },
                { value: "rectangle", label: "Rectangle" },
                { value: "free", label: "Free form" },
              ]}
              onChange={(shape) => set({ shape }, "shape of the matte")}
            />
          )}
          {(part.kind === "key" || part.kind === "object") && (
            <span className="shrink-0 px-1">{part.kind === "key" ? "key of" : "objects of"}</span>
          )}
          {"source" in part && (
            <SourceChoice
              name={`Source of part ${index + 1}`}
              value={part.source}
              sources={sources}
              onChange={(source) => set({ source }, "source of the matte")}
            />
          )}
          <SignButton
            name="Invert this part"
            aria-pressed={part.inverted}
            className={`ml-auto shrink-0 ${part.inverted ? "bg-accent-soft text-accent" : ""}`}
            onClick={() => set({ inverted: !part.inverted }, "inversion in the matte")}
          >
            <Contrast className="size-3.5" />
          </SignButton>
        </div>
      )}
      {open && (
        <div className="space-y-0.5 border-t border-line pt-1">
          <Fields {...{ store, layer, owner, part, index, called, sources, set, picks }} />
          <FrameLimits
            value={part}
            within={document}
            helped
            onChange={(frames) => set(frames, "frames in the matte")}
          />
        </div>
      )}
    </section>
  );
}

type AnyFields = Omit<FieldsProps<Part["kind"]>, "part" | "set"> & {
  part: Part;
  set: (change: PartChange, what: string) => void;
  picks: string[];
};

/** The fields of a part's own kind. */
function Fields({ part, picks, ...rest }: AnyFields) {
  switch (part.kind) {
    case "channel":
      return <ChannelFields {...rest} part={part} picks={picks} />;
    case "key":
      return <KeyFields {...rest} part={part} />;
    case "shape":
      return <ShapeFields {...rest} part={part} />;
    case "paint":
      return <PaintFields {...rest} part={part} />;
    case "object":
      return <ObjectFields {...rest} part={part} />;
    default:
      return <ModelFields {...rest} part={part} />;
  }
}
