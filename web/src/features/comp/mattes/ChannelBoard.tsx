/** The channel board: every channel side by side, sorted by how well it tells what stays from what goes. */
import { useQuery } from "@tanstack/react-query";
import { Eraser, X } from "lucide-react";
import { useState } from "react";
import { asProblem } from "../../../api/client";
import { compCalls, type Candidate } from "../../../api/comps";
import { layerOf, type Layer, elementsOfSource } from "../../../domain/comp";
import { addPart, newChannel, withMatte, withPart, matteAt } from "../../../domain/mattes";
import { trimmed } from "../../../domain/words";
import { ProblemNote, SignButton } from "../../../ui/basics";
import { Segments } from "../../../ui/Segments";
import { useDesk, useDeskFields, type BoardAsked } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { useExtraChannels } from "../steps/useExtraChannels";
import { showMatte } from "./showing";
import { text } from "../strings";

const t = text.ChannelBoard;

interface Props {
  store: DocumentStore;
  comp: number;
  asked: BoardAsked;
}

export function ChannelBoard({ store, comp, asked }: Props) {
  const document = store((s) => s.document);
  const layer = layerOf(document, asked.owner.layer);
  return layer ? <Board {...{ store, comp, asked, layer }} /> : null;
}

function Board({ store, comp, asked, layer }: Props & { layer: Layer }) {
  const { regions, tool, frame, matteShown } = useDeskFields("regions", "tool", "frame", "matteShown");
  const revision = store((s) => s.comp.revision);
  const layers = store((s) => s.document.layers);
  const further = useExtraChannels(elementsOfSource({ layers }, asked.source, layer));
  const [part, setPart] = useState(asked.part);
  const [chosen, setChosen] = useState<string | null>(null);
  const [passes, setPasses] = useState<1 | 2>(1);
  const ready = regions.stay.length > 0 && regions.go.length > 0;
  const body = { frame, layer: layer.id, source: asked.source, further, ...regions };
  const got = useQuery({
    queryKey: ["board", comp, revision, body],
    queryFn: ({ signal }) => compCalls.board(comp, body, signal),
    enabled: ready,
    placeholderData: (before) => before,
    retry: false,
  });
  const end = () => useDesk.setState({ board: null, tool: null });
  const what = tool?.kind === "regions" ? tool.what : null;

  /** The channel with its levels, as a new part the first time and then in its place. */
  function take(c: Candidate, times: 1 | 2) {
    const levels = {
      channel: c.channel,
      low: round(c.low),
      high: round(c.high),
      inverted: c.inverted,
      passes: times,
      shape: "ramp" as const,
      space: "codes" as const,
      keys: {},
    };
    const { commit, document } = store.getState();
    const count = matteAt(layer, asked.owner.step)?.parts.length ?? 0;
    const at = part ?? count;
    commit(
      (d) =>
        withMatte(d, asked.owner, (m) =>
          part === null ? addPart(m, newChannel(asked.source, levels)) : withPart(m, at, levels),
        ),
      t.asMatteOf(c.channel, layerOf(document, layer.id)?.name ?? layer.name),
    );
    setPart(at);
    setChosen(c.channel);
    setPasses(times);
    if (!matteShown) showMatte({ owner: asked.owner, part: null }, "alpha");
  }
  const best = got.data?.find((c) => c.channel === chosen);
  return (
    <section
      aria-label={t.channelBoard}
      className="flex h-full w-[46%] min-w-0 shrink-0 flex-col border-l border-line bg-panel"
    >
      <div className="flex items-center gap-1.5 border-b border-line bg-card px-2 py-1.5">
        <h2 className="truncate font-semibold">{t.channelBoard}</h2>
        <Segments
          name={t.whatIsMarked}
          small
          value={what ?? "none"}
          choices={[
            { value: "stay", label: t.markWhatStays, tip: t.dragOverSomeOfIt },
            { value: "go", label: t.whatGoes, tip: t.dragOverSomeOfIt },
          ]}
          onChange={(next) => {
            showMatte(null, "colour");
            useDesk.setState({ tool: { kind: "regions", owner: asked.owner, what: next as "stay" | "go" } });
          }}
        />
        <SignButton
          name={t.clearAllMarks}
          disabled={regions.stay.length + regions.go.length === 0}
          onClick={() => useDesk.setState({ regions: { stay: [], go: [] } })}
        >
          <Eraser className="size-4" />
        </SignButton>
        <SignButton name={t.closeTheBoard} className="ml-auto" onClick={end}>
          <X className="size-4" />
        </SignButton>
      </div>
      {best && (
        <div className="flex flex-wrap items-center gap-2 border-b border-line bg-card px-2 py-1">
          <span>
            <b>{best.channel}</b>
            {best.inverted ? t.inverted : ""}: {trimmed(best.low * 255, 0)}
            {t.to}
            {trimmed(best.high * 255, 0)}
          </span>
          <Segments
            name={t.passesOfTheProposedLevels}
            small
            value={String(passes) as "1" | "2"}
            choices={[
              { value: "1", label: t.onePass },
              { value: "2", label: t.twoGentle },
            ]}
            onChange={(next) => take(best, Number(next) as 1 | 2)}
          />
        </div>
      )}
      <div className="min-h-0 flex-1 overflow-auto p-2">
        {!ready && <p className="text-soft">{t.dragOverSomeOfWhat}</p>}
        {got.error && <ProblemNote problem={asProblem(got.error)} />}
        {ready && got.isPending && <p className="text-soft">{t.comparingChannels}</p>}
        {ready && got.data && !got.error && (
          <ol
            aria-label={t.channelsTheBestFirst}
            className="grid grid-cols-[repeat(auto-fill,minmax(9.5rem,1fr))] gap-2"
          >
            {got.data.map((c, i) => (
              <li key={c.channel}>
                <button
                  type="button"
                  aria-pressed={chosen === c.channel}
                  aria-label={t.take(c.channel)}
                  onClick={() => take(c, passes)}
                  className="w-full overflow-hidden rounded-md border border-line bg-card text-left hover:border-accent aria-pressed:border-accent aria-pressed:ring-2 aria-pressed:ring-accent"
                >
                  <img
                    src={`data:image/png;base64,${c.picture}`}
                    alt=""
                    className="w-full"
                    draggable={false}
                  />
                  <span className="block px-1.5 pt-0.5 pb-1">
                    <span className="flex items-baseline gap-1">
                      <b className="min-w-0 flex-1 truncate">{c.channel}</b>
                      {i === 0 && <span className="text-accent">{t.best}</span>}
                    </span>
                    <span className="block truncate text-[12px] text-soft">
                      {t.inCommon(trimmed(c.overlap * 100, 1))}
                    </span>
                    <span className="block truncate text-[12px] text-soft">
                      {t.apartNoise(trimmed(c.contrast, 2), trimmed(c.noise, 3))}
                    </span>
                  </span>
                </button>
              </li>
            ))}
          </ol>
        )}
      </div>
    </section>
  );
}

const round = (value: number) => Math.round(value * 1e4) / 1e4;
