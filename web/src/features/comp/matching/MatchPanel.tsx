/** Tone and grain of the plate for a layer: a piece of each is marked, and the step that is measured is put on. */
import { X } from "lucide-react";
import { useState } from "react";
import { asProblem, type Problem } from "../../../api/client";
import { compCalls } from "../../../api/comps";
import { allLayers, changeSteps, layerOf, type Layer } from "../../../domain/comp";
import { Button, ProblemNote, SignButton } from "../../../ui/basics";
import { Choose } from "../../../ui/Choose";
import { Segments } from "../../../ui/Segments";
import { useDesk, useDeskFields, type Matching } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { text } from "../strings";

const t = text.MatchPanel;

interface Props {
  store: DocumentStore;
  comp: number;
  layer: Layer;
}

/** Begins with the farthest layer as the plate, and with the layer's own piece. */
export function MatchButton({ store, id }: { store: DocumentStore; id: string }) {
  const plate = store((s) => s.document.layers.find((l) => l.id !== id)?.id);
  if (!plate) return null;
  const begin = () =>
    useDesk.setState({
      matching: { layer: id, plate, own: null, there: null },
      tool: { kind: "match", owner: { layer: id, step: null }, what: "own" },
    });
  return <Button onClick={begin}>{t.match}</Button>;
}

export function MatchPanel({ store, comp, layer }: Props) {
  const { matching, tool } = useDeskFields("matching", "tool");
  const document = store((s) => s.document);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  if (matching?.layer !== layer.id) return null;
  const { own, there, plate } = matching;
  const put = (part: Partial<Matching>) => useDesk.setState({ matching: { ...matching, ...part } });
  const owner = { layer: layer.id, step: null };

  async function match(what: "tone" | "grain") {
    if (!own || !there) return;
    setBusy(true);
    setProblem(null);
    try {
      const { document, commit } = store.getState();
      const ask = { document, frame: useDesk.getState().frame, layer: layer.id };
      const step = await compCalls.match(comp, { ...ask, what, plate, own, there });
      const name = layerOf(document, plate)?.name ?? plate;
      commit((d) => changeSteps(d, layer.id, (steps) => [...steps, step]), t.ofOn(what, name, layer.name));
    } catch (error) {
      setProblem(asProblem(error));
    }
    setBusy(false);
  }
  const missing = own ? (there ? null : t.nowDragOver(t.thePlate)) : t.nowDragOver(t.theLayer);
  return (
    <section
      aria-label={t.matchToThePlate}
      className="space-y-1.5 rounded-md border border-accent bg-card px-2 py-1.5"
    >
      <div className="flex items-center gap-2">
        <h4 className="min-w-0 flex-1 font-semibold">{t.matchToThePlate}</h4>
        <SignButton name={t.close} onClick={() => useDesk.setState({ matching: null, tool: null })}>
          <X className="size-4" />
        </SignButton>
      </div>
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-16 shrink-0 text-soft">{t.plate}</span>
        <Choose
          name={t.plate}
          value={plate}
          options={allLayers(document)
            .filter((l) => l.id !== layer.id)
            .map((l) => ({ value: l.id, label: l.name }))}
          onChange={(id) => put({ plate: id, there: null })}
        />
      </div>
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-16 shrink-0 text-soft">{t.mark}</span>
        <Segments<"own" | "plate" | "none">
          name={t.whatIsMarked}
          small
          value={tool?.kind === "match" ? tool.what : "none"}
          choices={[
            { value: "own", label: t.aPieceOfTheLayer },
            { value: "plate", label: t.oneOfThePlate },
          ]}
          onChange={(what) => what !== "none" && useDesk.setState({ tool: { kind: "match", owner, what } })}
        />
      </div>
      <p className="text-soft">{missing ?? t.bothAreMarked}</p>
      <div className="flex gap-1.5">
        <Button disabled={!!missing || busy} onClick={() => void match("tone")}>
          {t.matchTone}
        </Button>
        <Button disabled={!!missing || busy} onClick={() => void match("grain")}>
          {t.matchGrain}
        </Button>
      </div>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}
