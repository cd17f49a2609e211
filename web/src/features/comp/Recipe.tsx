/** The chosen layer's recipe, read from top to bottom in the order in which the arithmetic happens. */
import { Copy, Eye, EyeOff, Trash2 } from "lucide-react";
import { memo, useMemo, useState, type ReactNode } from "react";
import { Link } from "react-router";
import { asProblem, type ElementOut } from "../../api/client";
import {
  changeLayer,
  duplicateLayer,
  layerOf,
  removeLayer,
  type CompDocument,
  type Layer,
} from "../../domain/comp";
import { encodingInWords } from "../../domain/encoding";
import { matteInWords } from "../../domain/mattes";
import { readingInWords } from "../../domain/words";
import { doubted } from "../../parts/ElementPicture";
import { ReadingEditor } from "../../parts/ReadingEditor";
import { useReading } from "../../parts/useReading";
import { Button, Empty, ProblemNote, SignButton } from "../../ui/basics";
import { useDesk } from "./deskState";
import { shownDocument, type DocumentStore } from "./documentStore";
import { Instruments } from "./Instruments";
import { MatteEditor } from "./mattes/MatteEditor";
import { usePicking } from "./pointState";
import { LifeRung, MeetsRung, PlaceRung, placeInWords } from "./rungs";
import { StepsRung, stepsInWords } from "./steps/StepsRung";

interface Props {
  store: DocumentStore;
  elements: ElementOut[];
  project: number;
  comp: number;
}

export const Recipe = memo(function Recipe({ store, elements, project, comp }: Props) {
  const document = store(shownDocument);
  const layer = layerOf(
    document,
    useDesk((d) => d.layer),
  );
  // another layer's recipe opens where this one was worked in
  const [open, setOpen] = useState<RungName | null>("steps");
  const names = useMemo(() => Object.fromEntries(elements.map((e) => [e.key, e.name])), [elements]);
  return (
    <aside aria-label="Recipe" className="flex min-h-0 flex-col border-l border-line bg-panel">
      <div className="min-h-0 flex-1 overflow-auto">
        {layer ? (
          <LayerRecipe
            key={layer.id}
            store={store}
            document={document}
            layer={layer}
            element={elements.find((e) => e.key === layer.element)}
            names={names}
            project={project}
            open={open}
            onOpen={setOpen}
          />
        ) : (
          <Empty title="No layer chosen">Choose a card in the lineup: its recipe stands here.</Empty>
        )}
      </div>
      <Instruments comp={comp} store={store} />
    </aside>
  );
});

interface LayerProps {
  store: DocumentStore;
  document: CompDocument;
  layer: Layer;
  element: ElementOut | undefined;
  /** Of elements by their keys. */
  names: Record<string, string>;
  project: number;
  open: RungName | null;
  onOpen: (open: RungName | null) => void;
}

/** How people know what a matte or a step takes. */
function nameOfSource(source: string, document: CompDocument, names: Record<string, string>): string {
  if (!source) return "itself";
  if (!source.startsWith("layer:")) return names[source] ?? source;
  return document.layers.find((l) => `layer:${l.id}` === source)?.name ?? `${source.slice(6)}, which is gone`;
}

type RungName = "reading" | "steps" | "matte" | "place" | "meets" | "life";

function LayerRecipe({ store, document, layer, element, names, project, open, onOpen }: LayerProps) {
  const rung = (name: RungName, title: string, words: string, body: ReactNode) => (
    <Rung
      title={title}
      words={words}
      open={open === name}
      onToggle={() => onOpen(open === name ? null : name)}
    >
      {body}
    </Rung>
  );
  const moves = Object.keys(layer.place.keys).length > 0;
  const frame = useDesk((d) => (moves ? d.frame : 0));
  return (
    <div className="space-y-1.5 p-2.5">
      <LayerHead store={store} layer={layer} element={element} />
      {element &&
        rung(
          "reading",
          "Reading",
          element.has_alpha
            ? `${readingInWords(element.reading)}, ${doubted(element) ? "but the pixels say otherwise" : encodingInWords(element.encoding)}`
            : encodingInWords(element.encoding),
          <ReadingBody element={element} project={project} />,
        )}
      {rung(
        "steps",
        "Steps",
        stepsInWords(layer),
        <StepsRung store={store} layer={layer} project={project} />,
      )}
      {rung(
        "matte",
        "Matte",
        matteInWords(layer.matte, (source) => nameOfSource(source, document, names)),
        <MatteEditor store={store} layer={layer} step={null} called={layer.name} />,
      )}
      {rung("place", "Transform", placeInWords(layer, frame), <PlaceRung store={store} layer={layer} />)}
      {rung(
        "meets",
        "Blend",
        `${layer.operator}${layer.group ? ` in ${layer.group}` : ""}, ${Math.round(layer.opacity * 100)} %`,
        <MeetsRung store={store} layer={layer} />,
      )}
      {rung(
        "life",
        "Timing",
        `${layer.first ?? document.first} to ${layer.last ?? document.last}`,
        <LifeRung store={store} layer={layer} document={document} element={element} />,
      )}
    </div>
  );
}

function Rung({
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
  element: ElementOut | undefined;
}

const sameHead = (a: HeadProps, b: HeadProps) =>
  a.element === b.element &&
  a.layer.id === b.layer.id &&
  a.layer.name === b.layer.name &&
  a.layer.shown === b.layer.shown;

const LayerHead = memo(function LayerHead({ store, layer, element }: HeadProps) {
  const { commit } = store.getState();
  const set = useDesk((d) => d.set);
  const [name, setName] = useState<string | null>(null);
  function rename() {
    const next = name?.trim();
    setName(null);
    if (next && next !== layer.name)
      commit((d) => changeLayer(d, layer.id, { name: next.slice(0, 200) }), `rename ${layer.name}`);
  }
  return (
    <div className="pb-1">
      <div className="flex items-center gap-1">
        <input
          aria-label="Layer's name"
          value={name ?? layer.name}
          onChange={(event) => setName(event.target.value)}
          onBlur={rename}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
          className="min-w-0 flex-1 rounded-md border border-transparent bg-transparent px-1.5 py-0.5 text-[15px] font-semibold text-ellipsis hover:border-line focus:border-line focus:bg-card"
        />
        <SignButton
          name={layer.shown ? "Hide (H)" : "Show (H)"}
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
          name="Duplicate"
          onClick={() => {
            const [, id] = duplicateLayer(store.getState().document, layer.id);
            commit((d) => duplicateLayer(d, layer.id)[0], `duplicate ${layer.name}`);
            set({ layer: id });
          }}
        >
          <Copy className="size-4" />
        </SignButton>
        <SignButton
          name="Take it out (Delete)"
          onClick={() => commit((d) => removeLayer(d, layer.id), `take out ${layer.name}`)}
        >
          <Trash2 className="size-4" />
        </SignButton>
      </div>
      <p className="truncate px-1.5 text-soft" title={element?.name}>
        {element?.name ?? "its element is not in the project any more"}
      </p>
    </div>
  );
}, sameHead);

function ReadingBody({ element, project }: { element: ElementOut; project: number }) {
  const { set, undo } = useReading(project);
  const { picking } = usePicking();
  const problem = set.error ?? undo.error;
  return (
    <div className="space-y-2">
      <ReadingEditor
        reading={element.reading}
        encoding={element.encoding}
        hasAlpha={element.has_alpha}
        onReading={(reading) => set.mutate({ elements: [element.id], reading })}
        onEncoding={(encoding) => set.mutate({ elements: [element.id], encoding })}
        picking={picking}
        onPicking={(on) => usePicking.setState({ picking: on })}
      />
      <p className="text-soft">It holds for every use of {element.name}.</p>
      {doubted(element) && (
        <p role="note" className="flex gap-1.5 rounded-md border border-warn px-2 py-1">
          <span aria-hidden className="mt-1 size-2.5 shrink-0 rounded-[2px] bg-warn" />
          <span>
            Its pixels speak for {readingInWords(element.suggestion!.reading!)}.{" "}
            <Link className="underline" to={`/projects/${project}/elements?element=${element.id}&view=trial`}>
              Compare readings
            </Link>
          </span>
        </p>
      )}
      {element.changes > 0 && (
        <Button onClick={() => undo.mutate(element.id)} disabled={undo.isPending}>
          Take back the last change
        </Button>
      )}
      {problem && <ProblemNote problem={asProblem(problem)} />}
    </div>
  );
}
