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
import { text } from "../strings";

const t = text.PartRow;

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
  { value: "add", label: t.add, help: t.keptWhereEitherKeeps },
  { value: "subtract", label: t.subtract, help: t.removedFromWhatIsKept },
  { value: "intersect", label: t.intersect, help: t.keptOnlyWhereBothKeep },
  { value: "exclude", label: t.exclude, help: t.keptWhereOneOfThe },
];

export function PartRow(props: Props) {
  const { store, layer, owner, part, index, called, sources, picks, open, onToggle } = props;
  const shown = useDesk((d) => d.matteShown);
  const { commit, document } = store.getState();
  const set = (change: PartChange, what: string) =>
    commit((d) => withMatte(d, owner, (m) => withPart(m, index, change)), t.changeOf(what, called));
  const alone = shown?.part === index && shown.owner.layer === owner.layer && shown.owner.step === owner.step;
  return (
    <section
      aria-label={t.partOfTheMatte(index + 1)}
      className="space-y-1 rounded-md border border-line bg-panel px-1 py-1"
    >
      <div className="flex min-w-0 items-center gap-0.5">
        <SignButton
          name={open ? t.fold : t.open}
          aria-expanded={open}
          className="!min-w-5 shrink-0 !px-0"
          onClick={onToggle}
        >
          <ChevronRight className={`size-3.5 ${open ? "rotate-90" : ""}`} />
        </SignButton>
        <input
          type="checkbox"
          aria-label={t.partOn(index + 1)}
          checked={part.on}
          onChange={(event) => set({ on: event.target.checked }, t.partOfTheMatte2)}
          className="mr-1 size-4 shrink-0 accent-[var(--accent)]"
        />
        {part.kind === "paint" ? (
          <span className="truncate text-soft">{t.paintOverWhatIsAbove}</span>
        ) : (
          <Choose
            name={t.howPartIsCombined(index + 1)}
            live
            value={part.combine}
            options={HOW}
            onChange={(combine) => set({ combine: combine as Part["combine"] }, t.combinationInTheMatte)}
          />
        )}
        <SignButton
          name={alone ? t.lookAtThePictureAgain : t.lookAtThisPartAlone}
          aria-pressed={alone}
          className={`ml-auto !min-w-6 shrink-0 !px-0 ${alone ? "bg-accent-soft text-accent" : ""}`}
          onClick={() => showMatte(alone ? null : { owner, part: index }, alone ? "colour" : "alpha")}
        >
          <Eye className="size-3.5" />
        </SignButton>
        <SignButton
          name={t.takeThisPartOut}
          className="!min-w-6 shrink-0 !px-0"
          onClick={() => {
            useDesk.setState({ tool: null, matteShown: null });
            commit((d) => withMatte(d, owner, (m) => withoutPart(m, index)), t.partOff(called));
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
                  onChannel={(channel) => set(channelChange(part, channel), t.channelOfTheMatte)}
                />
              </span>
              <span className="shrink-0 text-soft">{t.ofWord2}</span>
            </>
          )}
          {part.kind === "shape" && (
            <Segments
              name={t.shapeOfPart(index + 1)}
              small
              value={part.shape}
              choices={[
                { value: "ellipse", label: t.ellipse },
                { value: "rectangle", label: t.rectangle },
                { value: "free", label: t.freeForm },
              ]}
              onChange={(shape) => set({ shape }, t.shapeOfTheMatte)}
            />
          )}
          {(part.kind === "key" || part.kind === "object") && (
            <span className="shrink-0 px-1">{part.kind === "key" ? t.keyOf : t.objectsOf}</span>
          )}
          {"source" in part && (
            <SourceChoice
              name={t.sourceOfPart(index + 1)}
              value={part.source}
              sources={sources}
              onChange={(source) => set({ source }, t.sourceOfTheMatte)}
            />
          )}
          <SignButton
            name={t.invertThisPart}
            aria-pressed={part.inverted}
            className={`ml-auto shrink-0 ${part.inverted ? "bg-accent-soft text-accent" : ""}`}
            onClick={() => set({ inverted: !part.inverted }, t.inversionInTheMatte)}
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
            onChange={(frames) => set(frames, t.framesInTheMatte)}
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
