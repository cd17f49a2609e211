/** What is shown of a picture, and what it lies over. */
import type { Look } from "../api/pictures";
import { SunMedium } from "lucide-react";
import { Popover } from "radix-ui";
import { colourOf, hexOf, trimmed } from "../domain/words";
import { Button } from "../ui/basics";
import { Choose } from "../ui/Choose";
import { NumberField } from "../ui/NumberField";
import { Segments } from "../ui/Segments";
import { text } from "./strings";
import { useNarrow } from "../ui/useNarrow";
import { useSpaces } from "./useSpaces";

const t = text.LookBar;

const CHANNELS = [
  { value: "colour", label: t.colour, tip: t.overTheBackground1 },
  { value: "rgb", label: t.rgb, tip: t.ignoringAlpha2 },
  { value: "alpha", label: t.alpha, tip: t.alphaAloneAsGrey3 },
  { value: "red", label: <span className="text-red">R</span>, tip: t.redAlone4 },
  { value: "green", label: <span className="text-green">G</span>, tip: t.greenAlone5 },
  { value: "blue", label: <span className="text-blue">B</span>, tip: t.blueAlone6 },
  { value: "straight", label: t.straight, tip: t.surfaceColourCA7 },
  { value: "luma", label: t.luma, tip: t.lumaBt709Weights8 },
  { value: "band", label: t.edgeBand, tip: t.onlyWhereTheAlphaLies },
  { value: "tint", label: t.matteTint, tip: t.aColourOverWhatThe },
] as const;

export const CHANNEL_KEYS = CHANNELS.map((c) => c.value);

const BACKGROUNDS = [
  { value: "checks", label: t.checks },
  { value: "black", label: t.black },
  { value: "white", label: t.white },
  { value: "colour", label: t.colour },
] as const;

export const FIRST_LOOK: Look = {
  channel: "colour",
  background: "checks",
  colour: [0, 0.6, 0.3],
  exposure: 0,
  gamma: 1,
  through: "",
};

export function LookBar({ look, onLook }: { look: Look; onLook: (look: Look) => void }) {
  return (
    <>
      <Channel value={look.channel} onChange={(channel) => onLook({ ...look, channel })} />
      <span className="flex items-center gap-1.5">
        <Background value={look.background} onChange={(background) => onLook({ ...look, background })} />
        {look.background === "colour" && (
          <input
            type="color"
            aria-label={t.backgroundColour}
            value={hexOf(look.colour)}
            onChange={(event) => onLook({ ...look, colour: colourOf(event.target.value) ?? look.colour })}
            className="h-7 w-8 rounded border border-line bg-card p-0.5"
          />
        )}
      </span>
      <Display look={look} onLook={onLook} />
    </>
  );
}

interface PartProps<T> {
  value: T;
  onChange: (value: T) => void;
}

/** Where the page is narrow the row has to hold all of it: what is looked at less often is a list then. */
const AT_HAND = 6;
const FURTHER = CHANNELS.slice(AT_HAND).map(({ value, label }) => ({ value, label: label as string }));

function Channel({ value, onChange }: PartProps<Look["channel"]>) {
  const narrow = useNarrow();
  const further = FURTHER.some((f) => f.value === value);
  return (
    <span className="flex items-center gap-1.5">
      <Segments
        name={t.show}
        tight
        value={value}
        choices={CHANNELS.slice(0, narrow ? AT_HAND : undefined)}
        onChange={onChange}
      />
      {narrow && (
        <span className={`flex w-28 ${further ? "[&>button]:bg-accent-soft [&>button]:text-accent" : ""}`}>
          <Choose
            name={t.furtherLooks}
            placeholder={t.furtherLooks}
            value={further ? value : ""}
            options={FURTHER}
            onChange={(next) => onChange(next as Look["channel"])}
          />
        </span>
      )}
    </span>
  );
}

function Background({ value, onChange }: PartProps<Look["background"]>) {
  if (useNarrow()) {
    return (
      <span className="flex w-24">
        <Choose
          name={t.background}
          live
          value={value}
          options={[...BACKGROUNDS]}
          onChange={(next) => onChange(next as Look["background"])}
        />
      </span>
    );
  }
  return (
    <>
      <span className="text-soft">{t.over}</span>
      <Segments name={t.background} tight value={value} choices={[...BACKGROUNDS]} onChange={onChange} />
    </>
  );
}

const PLAIN = "srgb";

/** How light becomes what the screen shows: brighter or darker for the eye, another gamma, a view. */
function Display({ look, onLook }: { look: Look; onLook: (look: Look) => void }) {
  const { views } = useSpaces();
  const changed = look.exposure !== 0 || look.gamma !== 1 || look.through !== "";
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button
          type="button"
          aria-label={t.display}
          title={t.display}
          className={`-ml-1 inline-flex h-7 items-center gap-1 rounded-md px-1 hover:bg-well ${changed ? "bg-accent-soft text-accent" : ""}`}
        >
          <SunMedium aria-hidden className="size-4" />
          {look.exposure !== 0 && (
            <span className="num max-[1400px]:hidden">
              {look.exposure > 0 ? "+" : ""}
              {trimmed(look.exposure, 2)}
            </span>
          )}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-50 w-80 space-y-1 rounded-md border border-line bg-card p-3 shadow-lg"
        >
          <p className="mb-1 text-soft">{t.displayHelp}</p>
          <NumberField
            name={t.exposure}
            value={look.exposure}
            min={-20}
            max={20}
            step={0.1}
            rest={0}
            slider={[-6, 6]}
            unit={t.stops}
            onDraft={(exposure) => onLook({ ...look, exposure })}
            onCommit={(exposure) => onLook({ ...look, exposure })}
          />
          <NumberField
            name={t.gamma}
            value={look.gamma}
            min={0.1}
            max={10}
            step={0.05}
            rest={1}
            slider={[0.2, 4]}
            onDraft={(gamma) => onLook({ ...look, gamma })}
            onCommit={(gamma) => onLook({ ...look, gamma })}
          />
          <div className="flex min-h-7 items-center gap-2">
            <span className="w-20 shrink-0 text-soft">{t.view}</span>
            <Choose
              name={t.view}
              value={look.through || PLAIN}
              options={[{ value: PLAIN, label: t.plainSrgb }, ...views]}
              onChange={(name) => onLook({ ...look, through: name === PLAIN ? "" : name })}
            />
          </div>
          <Button
            kind="quiet"
            disabled={!changed}
            onClick={() => onLook({ ...look, exposure: 0, gamma: 1, through: "" })}
          >
            {t.asItIs}
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
