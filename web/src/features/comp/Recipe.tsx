/** The chosen layer's recipe, read from top to bottom in the order in which the arithmetic happens. */
import { duplicateLayer } from "../../domain/clipboard";
import { Copy, Eye, EyeOff, Lock, LockOpen, ScanEye, Trash2 } from "lucide-react";
import { memo, useDeferredValue, useMemo, useState, type ReactNode } from "react";
import { Link } from "react-router";
import { asProblem, type ElementOut } from "../../api/client";
import {
  changeLayer,
  layerOf,
  removeLayer,
  type CompDocument,
  type Layer,
  elementOf,
  ofBeneath,
} from "../../domain/comp";
import { isComp } from "../../domain/compSource";
import { encodingInWords } from "../../domain/encoding";
import { holdsInWords } from "../../domain/holds";
import { lockedOrFree } from "../../domain/locks";
import { matteInWords } from "../../domain/mattes";
import { readingInWords } from "../../domain/words";
import { doubted } from "../../domain/attention";
import { ReadingEditor } from "../../parts/ReadingEditor";
import { useSpaces } from "../../parts/useSpaces";
import { useReading } from "../../parts/useReading";
import { Button, ProblemNote, SignButton } from "../../ui/basics";
import { CompColumn } from "./CompColumn";
import { sizeOf } from "./drawing/sizes";
import { useDesk, type RecipeSectionName } from "./deskState";
import { alphaInWords, GroupSection, HeldBy } from "./GroupSection";
import { shownDocument, type DocumentStore } from "./documentStore";
import { Instruments } from "./Instruments";
import { MatteEditor } from "./mattes/MatteEditor";
import { usePicking } from "./pointState";
import { BlendSection, TransformSection, transformInWords } from "./recipeSections";
import { MadeSection, madeInWords } from "./MadeSection";
import { TimingSection } from "./TimingSection";
import { SceneSection, sceneInWords } from "./SceneSection";
import { RepeatSection, repeatInWords } from "./RepeatSection";
import { StepsSection, stepsInWords } from "./steps/StepsSection";
import { ExchangeElement } from "./ExchangeElement";
import { text } from "./strings";

const t = text.Recipe;

interface Props {
  store: DocumentStore;
  elements: ElementOut[];
  project: number;
  comp: number;
}

export const Recipe = memo(function Recipe({ store, elements, project, comp }: Props) {
  const document = store(shownDocument);
  const chosen = useDesk((d) => d.layer);
  // the card is seen to be chosen at once, and the recipe follows: drawing one takes longer than a frame
  const told = useDeferredValue(chosen);
  const layer = layerOf(document, told);
  const open = useDesk((d) => d.section);
  const names = useMemo(() => Object.fromEntries(elements.map((e) => [e.key, e.name])), [elements]);
  return (
    <aside
      aria-label={t.recipe}
      aria-busy={told !== chosen}
      className="flex min-h-0 flex-col border-l border-line bg-panel"
    >
      <div className="min-h-0 flex-1 overflow-auto">
        {layer ? (
          <LayerRecipe
            key={layer.id}
            store={store}
            document={document}
            layer={layer}
            elements={elements}
            names={names}
            project={project}
            comp={comp}
            open={open}
            onOpen={setOpen}
          />
        ) : (
          <CompColumn store={store} document={document} elements={elements} project={project} comp={comp} />
        )}
      </div>
      <Instruments comp={comp} store={store} />
    </aside>
  );
});

const setOpen = (section: RecipeSectionName | null) => useDesk.setState({ section });

interface LayerProps {
  store: DocumentStore;
  document: CompDocument;
  layer: Layer;
  /** What layers can show. */
  elements: ElementOut[];
  /** Of elements by their keys. */
  names: Record<string, string>;
  project: number;
  comp: number;
  open: RecipeSectionName | null;
  onOpen: (open: RecipeSectionName | null) => void;
}

/** How people know what a matte or a step takes. */
function nameOfSource(source: string, document: CompDocument, names: Record<string, string>): string {
  if (!source) return "itself";
  if (!source.startsWith("layer:")) return names[source] ?? source;
  return layerOf(document, source.slice(6))?.name ?? t.whichIsGone(source.slice(6));
}

const LayerRecipe = memo(function LayerRecipe(props: LayerProps) {
  const { store, document, layer, elements, names, project, comp, open, onOpen } = props;
  const element = elements.find((e) => e.key === elementOf(layer));
  const section = (name: RecipeSectionName, title: string, words: string, body: ReactNode) => (
    <RecipeSection
      title={title}
      words={words}
      open={open === name}
      onToggle={() => onOpen(open === name ? null : name)}
    >
      {body}
    </RecipeSection>
  );
  const moves = [layer.transform, layer.card].some((x) => Object.keys(x?.keys ?? {}).length > 0);
  const frame = useDesk((d) => (moves ? d.frame : 0));
  return (
    <div className="space-y-1.5 p-2.5">
      <LayerHead store={store} layer={layer} />
      {layer.kind === "element" && <ExchangeElement store={store} layer={layer} elements={elements} />}
      <HeldBy document={document} layer={layer} />
      {element && isComp(element) && (
        <p className="flex items-baseline gap-2 rounded-lg border border-line bg-card px-2.5 py-1.5">
          <span className="text-soft">{t.comp}</span>
          <Link className="min-w-0 truncate underline" to={`/projects/${project}/comp/${element.id}`}>
            {t.openComp(element.name)}
          </Link>
        </p>
      )}
      {element &&
        !isComp(element) &&
        section(
          "reading",
          t.reading,
          element.holds
            ? holdsInWords(element.holds)
            : element.has_alpha
              ? `${readingInWords(element.reading)}, ${doubted(element) ? t.butThePixelsSayOtherwise : encodingInWords(element.encoding)}`
              : encodingInWords(element.encoding),
          <ReadingBody element={element} project={project} />,
        )}
      {layer.kind === "made" &&
        section(
          "made",
          t.made,
          madeInWords(layer.made),
          <MadeSection store={store} layer={layer} comp={comp} />,
        )}
      {layer.kind === "group" &&
        section(
          "group",
          t.group,
          alphaInWords(layer),
          <GroupSection store={store} group={layer} comp={comp} />,
        )}
      {section("steps", t.steps, stepsInWords(layer), <StepsSection {...{ store, layer, project, comp }} />)}
      {section(
        "matte",
        t.matte,
        matteInWords(layer.matte, (source) => nameOfSource(source, document, names)),
        <MatteEditor store={store} layer={layer} step={null} called={layer.name} />,
      )}
      {section(
        "transform",
        t.transform,
        transformInWords(layer, frame),
        <TransformSection
          store={store}
          layer={layer}
          size={sizeOf(layer, document, element ? [element] : [])}
        />,
      )}
      {section(
        "scene",
        t.scene,
        sceneInWords(layer, frame),
        <SceneSection {...{ store, layer, comp, project }} />,
      )}
      {section(
        "blend",
        t.blend,
        `${layer.operator}, ${Math.round(layer.opacity * 100)} %`,
        <BlendSection store={store} layer={layer} />,
      )}
      {!ofBeneath(layer) &&
        section("repeat", t.repeat, repeatInWords(layer), <RepeatSection store={store} layer={layer} />)}
      {section(
        "timing",
        t.timing,
        t.to(layer.first ?? document.first, layer.last ?? document.last),
        <TimingSection store={store} layer={layer} document={document} element={element} />,
      )}
    </div>
  );
});

function RecipeSection({
  title,
  words,
  open,
  onToggle,
  children,
}: {
  title: string;
  words: string;
  open: boolean;
  onToggle: () => void;
  children: ReactNode;
}) {
  return (
    <section className={`rounded-lg border bg-card ${open ? "border-accent" : "border-line"}`}>
      <h3>
        <button
          type="button"
          aria-expanded={open}
          onClick={onToggle}
          className="flex w-full items-baseline gap-2 rounded-lg px-3 py-1.5 text-left"
        >
          <span className="w-16 shrink-0 text-soft">{title}</span>
          <span className="min-w-0 flex-1 truncate" title={words}>
            {words}
          </span>
        </button>
      </h3>
      {open && <div className="border-t border-line px-3 py-2">{children}</div>}
    </section>
  );
}

interface HeadProps {
  store: DocumentStore;
  layer: Layer;
}

const sameHead = (a: HeadProps, b: HeadProps) =>
  a.layer.id === b.layer.id &&
  a.layer.name === b.layer.name &&
  (a.layer.kind === "group" ? a.layer.layers.length : -1) ===
    (b.layer.kind === "group" ? b.layer.layers.length : -1) &&
  a.layer.shown === b.layer.shown &&
  a.layer.locked === b.layer.locked;

const LayerHead = memo(function LayerHead({ store, layer }: HeadProps) {
  const { commit } = store.getState();
  const set = useDesk((d) => d.set);
  const alone = useDesk((d) => d.alone);
  const [name, setName] = useState<string | null>(null);
  function rename() {
    const next = name?.trim();
    setName(null);
    if (next && next !== layer.name)
      commit((d) => changeLayer(d, layer.id, { name: next.slice(0, 200) }), t.rename(layer.name));
  }
  return (
    <div className="pb-1">
      <div className="flex items-center gap-1">
        <input
          aria-label={t.layersName}
          value={name ?? layer.name}
          onChange={(event) => setName(event.target.value)}
          onBlur={rename}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
          className="min-w-0 flex-1 rounded-md border border-transparent bg-transparent px-1.5 py-0.5 text-[15px] font-semibold text-ellipsis hover:border-line focus:border-line focus:bg-card"
        />
        <SignButton
          name={alone.includes(layer.id) ? t.showAll : t.showAlone}
          aria-pressed={alone.includes(layer.id)}
          className={alone.includes(layer.id) ? "bg-accent-soft text-accent" : ""}
          onClick={() => useDesk.setState({ alone: alone.includes(layer.id) ? [] : [layer.id] })}
        >
          <ScanEye className="size-4" />
        </SignButton>
        <SignButton
          name={layer.locked ? t.unlockL : t.lockL}
          aria-pressed={layer.locked}
          className={layer.locked ? "bg-accent-soft text-accent" : ""}
          onClick={() =>
            commit((d) => lockedOrFree(d, [layer.id]), (layer.locked ? t.unlock : t.lock)(layer.name))
          }
        >
          {layer.locked ? <Lock className="size-4" /> : <LockOpen className="size-4" />}
        </SignButton>
        <SignButton
          name={layer.shown ? t.hideH : t.showH}
          onClick={() =>
            commit(
              (d) => changeLayer(d, layer.id, { shown: !layer.shown }),
              `${layer.shown ? "hide" : "show"} ${layer.name}`,
            )
          }
        >
          {layer.shown ? <Eye className="size-4" /> : <EyeOff className="size-4" />}
        </SignButton>
        <SignButton
          name={t.duplicate}
          onClick={() => {
            const [, id] = duplicateLayer(store.getState().document, layer.id);
            commit((d) => duplicateLayer(d, layer.id)[0], t.duplicate2(layer.name));
            set({ layer: id, also: [] });
          }}
        >
          <Copy className="size-4" />
        </SignButton>
        <SignButton
          name={t.takeItOutDelete}
          onClick={() => commit((d) => removeLayer(d, layer.id), t.takeOut(layer.name))}
        >
          <Trash2 className="size-4" />
        </SignButton>
      </div>
      {layer.kind !== "element" && (
        <p className="px-1.5 text-soft">
          {layer.kind === "group" ? t.aGroupOf(layer.layers.length) : t.madeHere}
        </p>
      )}
    </div>
  );
}, sameHead);

function ReadingBody({ element, project }: { element: ElementOut; project: number }) {
  const { spaces } = useSpaces();
  const { set, undo } = useReading(project);
  const { picking } = usePicking();
  if (element.holds) return <p className="text-soft">{t.dataAsItIs}</p>;
  const problem = set.error ?? undo.error;
  return (
    <div className="space-y-2">
      <ReadingEditor
        spaces={spaces}
        reading={element.reading}
        encoding={element.encoding}
        hasAlpha={element.has_alpha}
        onReading={(reading) => set.mutate({ elements: [element.id], reading })}
        onEncoding={(encoding) => set.mutate({ elements: [element.id], encoding })}
        picking={picking}
        onPicking={(on) => usePicking.setState({ picking: on })}
      />
      <p className="text-soft">{t.itHoldsForEveryUse(element.name)}</p>
      {doubted(element) && (
        <p role="note" className="flex gap-1.5 rounded-md border border-warn px-2 py-1">
          <span aria-hidden className="mt-1 size-2.5 shrink-0 rounded-[2px] bg-warn" />
          <span>
            {t.itsPixelsSpeakFor}
            {readingInWords(element.suggestion!.reading!)}.{" "}
            <Link className="underline" to={`/projects/${project}/elements?element=${element.id}&view=trial`}>
              {t.compareReadings}
            </Link>
          </span>
        </p>
      )}
      {element.changes > 0 && (
        <Button onClick={() => undo.mutate(element.id)} disabled={undo.isPending}>
          {t.takeBackTheLastChange}
        </Button>
      )}
      {problem && <ProblemNote problem={asProblem(problem)} />}
    </div>
  );
}
