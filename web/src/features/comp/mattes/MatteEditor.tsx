/** A matte as a short list: channels, keys, shapes, paint and objects put together, then refined. */
import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { Fragment, useState } from "react";
import { useParams } from "react-router";
import { queries } from "../../../api/queries";
import { elementsOfSource, type Layer, elementOf } from "../../../domain/comp";
import {
  addPart,
  matteOf,
  newKey,
  newObjects,
  newPaint,
  newShape,
  proposedChannel,
  takes,
  withMatte,
  type Matte,
  type Owner,
  type Part,
  type OwnerStep,
} from "../../../domain/mattes";
import { Button } from "../../../ui/basics";
import type { Option } from "../../../ui/Choose";
import { Segments } from "../../../ui/Segments";
import { Tick } from "../../../ui/Tick";
import { AnimatedNumber } from "../AnimatedNumber";
import { useDesk, useDeskFields } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { useSources } from "../steps/SourceField";
import { useObjects } from "./kinds/ObjectFields";
import { FrameLimits } from "../FrameLimits";
import { EdgeColour, EdgeFields } from "./EdgeFields";
import { newPart } from "./kinds/ModelFields";
import { PartRow } from "./PartRow";
import { showMatte } from "./showing";
import { text } from "../strings";

const t = text.MatteEditor;

const REFINE: [string, string, [number, number], [number, number], string, string][] = [
  ["specks", t.removeSpecks, [0, 1e6], [0, 500], t.removesKeptRegionsOfFewer, "px"],
  ["holes", t.fillHoles, [0, 1e6], [0, 500], t.fillsEnclosedHolesOfFewer, "px"],
  ["steady", "steady", [0, 5], [0, 5], t.medianOverSoManyFrames, "fr"],
  [
    "grow",
    "grow / shrink",
    [-200, 200],
    [-10, 10],
    "Above 0 grows, below 0 shrinks, by fractions of a pixel",
    "px",
  ],
  ["soften", "soften", [0, 200], [0, 20], t.standardDeviation, "px"],
];
const WHOLE = new Set(["specks", "holes", "steady"]);
/** Kinds of parts with items of their own in the menu; the others stand there by their titles. */
const OWN_ITEM = new Set(["channel", "key", "shape", "paint", "object"]);

/** Pixels from which on shrinking cuts into the picture itself. */
const CHOKE = 3;

interface Props {
  store: DocumentStore;
  layer: Layer;
  step: OwnerStep;
  /** How the one to whom it belongs is called: "kite", "Levels of kite". */
  called: string;
}

const item = "truncate rounded px-2 py-1 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none";
const menu =
  "z-50 max-h-[min(60vh,var(--radix-dropdown-menu-content-available-height))] w-72 overflow-auto rounded-md border border-line bg-card p-1 shadow-lg";

export function MatteEditor({ store, layer, step, called }: Props) {
  const tables = useQuery(queries.tables());
  const sources = useSources({ store, layer });
  const [open, setOpen] = useState<number | null>(null);
  const document = store((s) => s.document);
  const objects = useObjects({ store, layer, source: "" });
  const owner: Owner = { layer: layer.id, step };
  const matte = matteOf({ ...document, layers: [layer] }, owner);
  const change = (edit: (matte: Matte) => Matte, what: string) =>
    store.getState().commit((d) => withMatte(d, owner, edit), what);
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  const elementTaken = (source: string) => {
    const keys = source ? elementsOfSource(document, source, layer) : [];
    return keys.length === 1 ? elements.data?.find((e) => e.key === keys[0]) : undefined;
  };
  const own: Option = { value: "", label: t.itself(layer.name) };
  // a layer that takes this one would close a circle
  const possible = sources.filter(
    (s) => !s.value.startsWith("layer:") || !takes(document, s.value.slice(6), layer.id),
  );
  const add = (part: Part) => {
    setOpen(matte.parts.length);
    change((m) => addPart(m, part), t.matteOf(called));
  };
  const next = matte.parts.length;
  const tool = (kind: "screen" | "paint") => useDesk.setState({ tool: { kind, owner, part: next } });
  const drawShape = () =>
    useDesk.setState({ tool: { kind: "shape", owner, path: { of: "matte", step: owner.step, part: next } } });
  return (
    <div className="space-y-1.5">
      {matte.parts.length === 0 ? (
        <p className="text-soft">{t.whiteKeepsBlackRemovesTake}</p>
      ) : (
        <Shown owner={owner} />
      )}
      {matte.parts.map((part, index) => (
        <PartRow
          key={index}
          {...{ store, layer, owner, part, index, called }}
          sources={[own, ...possible]}
          picks={tables.data?.picks ?? []}
          open={open === index}
          onToggle={() => setOpen(open === index ? null : index)}
        />
      ))}
      <div className="flex flex-wrap gap-1">
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button className="px-2">
              <Plus className="size-3.5" />
              {t.takeAChannelOf}
            </Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="start" className={menu}>
              {[own, ...possible].map((s, i, all) => (
                <Fragment key={s.value}>
                  {s.group !== all[i - 1]?.group && (
                    <DropdownMenu.Label className="px-2 pt-2 pb-0.5 text-soft">{s.group}</DropdownMenu.Label>
                  )}
                  <DropdownMenu.Item
                    className={item}
                    onSelect={() => add(proposedChannel(s.value, elementTaken(s.value)))}
                  >
                    {s.label}
                  </DropdownMenu.Item>
                </Fragment>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button className="px-2">
              <Plus className="size-3.5" />
              {t.make}
            </Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="start" className={menu}>
              <DropdownMenu.Item
                className={item}
                onSelect={() =>
                  useDesk.setState({
                    board: { owner, part: null, source: "" },
                    tool: { kind: "regions", owner, what: "stay" },
                    matteShown: null,
                  })
                }
              >
                {t.channelBoardFindTheBest}
              </DropdownMenu.Item>
              <DropdownMenu.Item
                className={item}
                onSelect={() => {
                  setOpen(matte.parts.length);
                  change((m) => ({ ...addPart(m, newKey("")), edge_colour: "screen" }), t.keyOf(called));
                  tool("screen");
                }}
              >
                {t.keyOfAGreenOr}
              </DropdownMenu.Item>
              <DropdownMenu.Item
                className={item}
                onSelect={() => add(newKey("", { by: "plate", black: 0.03, white: 0.15 }))}
              >
                {t.differenceFromACleanPlate}
              </DropdownMenu.Item>
              {(["ellipse", "rectangle", "free"] as const).map((shape) => (
                <DropdownMenu.Item
                  key={shape}
                  className={item}
                  onSelect={() => {
                    add(newShape({ shape }));
                    drawShape();
                  }}
                >
                  {shape === "free" ? t.freeForm : shape === "ellipse" ? t.ellipse : t.rectangle}
                </DropdownMenu.Item>
              ))}
              <DropdownMenu.Item
                className={item}
                onSelect={() => {
                  add(newPaint());
                  tool("paint");
                }}
              >
                {t.paint}
              </DropdownMenu.Item>
              <DropdownMenu.Item
                className={item}
                onSelect={() => add(newObjects("", Object.keys(objects)[0] ?? "objects", []))}
              >
                {t.objectsByTheirNames}
              </DropdownMenu.Item>
              {tables.data?.parts
                .filter((table) => !OWN_ITEM.has(table.kind))
                .map((table) => (
                  <DropdownMenu.Item key={table.kind} className={item} onSelect={() => add(newPart(table))}>
                    {table.title}
                  </DropdownMenu.Item>
                ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
      {matte.parts.length > 0 && (
        <>
          <EdgeFields {...{ store, layer, step, called, matte, change }} />
          {REFINE.map(([field, name, [min, max], slider, help, unit]) => (
            <AnimatedNumber
              key={field}
              {...{ store, layer, field, name, min, max, slider, help, unit }}
              path={{ of: "matte", step, part: null }}
              what={t.ofTheMatteOf(name, called)}
              step={WHOLE.has(field) ? 1 : 0.1}
              digits={WHOLE.has(field) ? 0 : 2}
              whole={field === "steady"}
              rest={0}
            />
          ))}
          {matte.grow <= -CHOKE && <Choked grow={matte.grow} layer={layer} />}
          {step === null && <EdgeColour {...{ called, matte, change }} />}
          <FrameLimits
            value={matte}
            within={document}
            helped
            onChange={(frames) => change((m) => ({ ...m, ...frames }), t.framesOfTheMatteOf(called))}
          />
          <Tick
            label={t.inverted}
            checked={matte.inverted}
            onChange={(inverted) =>
              change((m) => ({ ...m, inverted }), t.matteOf2(called, inverted ? "inverted" : "as it was"))
            }
          />
          <Tick
            label="on"
            checked={matte.on}
            onChange={(on) => change((m) => ({ ...m, on }), t.matteOf2(called, on ? "on" : "off"))}
          />
        </>
      )}
    </div>
  );
}

const SEEN = [
  { value: "picture", label: t.picture, tip: t.whatWasLookedAtBefore },
  { value: "alpha", label: t.grey, tip: t.theMatteAloneWhiteKeeps },
  { value: "tint", label: t.tint, tip: t.aColourOverWhatThe },
  { value: "band", label: t.edgeBand, tip: t.onlyWhereTheMatteLies },
  { value: "colour", label: t.cutOut, tip: t.whatIsKeptOverThe },
] as const;

/** How the whole matte is looked at. */
function Shown({ owner }: { owner: Owner }) {
  const { matteShown: shown, look } = useDeskFields("matteShown", "look");
  const here = shown?.part === null && shown.owner.layer === owner.layer && shown.owner.step === owner.step;
  const value = here ? (SEEN.find((s) => s.value === look.channel)?.value ?? "alpha") : "picture";
  return (
    <div className="flex items-center">
      <Segments
        name={t.seeTheMatteAs}
        small
        value={value}
        choices={[...SEEN]}
        onChange={(next) =>
          next === "picture" ? showMatte(null, "colour") : showMatte({ owner, part: null }, next)
        }
      />
    </div>
  );
}

/** A finger-wide choke is possible, but it may hide what is better mended where it arises. */
function Choked({ grow, layer }: { grow: number; layer: Layer }) {
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  const element = elements.data?.find((e) => e.key === elementOf(layer));
  const suggested = element?.suggestion?.reading;
  const doubtful =
    element?.facts?.alpha && suggested && suggested.alpha !== element.reading.alpha
      ? t.thePixelsOfLookAnd(element.name, suggested.alpha, element.reading.alpha)
      : t.thisCutsIntoThePicture;
  return (
    <p role="note" className="flex gap-1.5 rounded-md border border-warn bg-card px-2 py-1">
      <span aria-hidden className="mt-1 size-2.5 shrink-0 rounded-[2px] bg-warn" />
      <span>{t.shrunkByPx(-grow, doubtful)}</span>
    </p>
  );
}
