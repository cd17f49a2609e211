/** How much of the picture a matte keeps, removes and lets through in part; and what changes from frame to frame. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { asProblem, type Problem } from "../../../api/client";
import { compCalls, type MatteFigures } from "../../../api/comps";
import { layerOf } from "../../../domain/comp";
import type { Owner } from "../../../domain/mattes";
import { trimmed } from "../../../domain/words";
import { pointsOf } from "../../../parts/plots";
import { Button, ProblemNote, ProgressBar } from "../../../ui/basics";
import { useDeskFields } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { text } from "../strings";

const t = text.MatteInstrument;

interface Props {
  store: DocumentStore;
  comp: number;
}

export function MatteInstrument({ store, comp }: Props) {
  const { layer: id, frame, matteShown } = useDeskFields("layer", "frame", "matteShown");
  const document = store((s) => s.document);
  const layer = layerOf(document, id);
  const shown = matteShown?.owner.layer === id ? matteShown : null;
  const step = shown?.owner.step ?? null;
  const revision = store((s) => s.comp.revision);
  const there = step !== null || (layer?.matte?.parts.length ?? 0) > 0;
  const body = { frame, layer: id ?? "", step, part: shown?.part ?? null };
  const got = useQuery({
    queryKey: ["matte-figures", comp, revision, body],
    queryFn: ({ signal }) => compCalls.matteFigures(comp, body, signal),
    enabled: there,
    placeholderData: (before) => before,
    retry: false,
  });
  if (!layer) return <p className="text-soft">{t.chooseALayerInThe}</p>;
  if (!there) return <p className="text-soft">{t.hasNoMatteMakeOne(layer.name)}</p>;
  if (got.error) return <ProblemNote problem={asProblem(got.error)} />;
  if (!got.data) return <p className="text-soft">{t.measuring}</p>;
  return (
    <>
      <Shares figures={got.data} />
      <Flicker
        key={`${revision} ${layer.id} ${step}`}
        store={store}
        comp={comp}
        owner={{ layer: layer.id, step }}
      />
    </>
  );
}

const percent = (share: number) => `${trimmed(share * 100, share > 0 && share < 0.01 ? 2 : 1)} %`;

function Shares({ figures }: { figures: MatteFigures }) {
  const heights = figures.counts.map(Math.sqrt);
  const rows = [
    ["keeps", figures.kept],
    ["in part", figures.between],
    ["removes", figures.removed],
  ] as const;
  return (
    <>
      <dl className="flex justify-between gap-2 whitespace-nowrap">
        {rows.map(([name, share]) => (
          <div key={name} className="flex items-baseline gap-1">
            <dt className="text-soft">{name}</dt>
            <dd className="num">{percent(share)}</dd>
          </div>
        ))}
      </dl>
      <svg
        role="img"
        aria-label={t.histogramOfTheMatteBlack}
        viewBox="0 0 1000 100"
        preserveAspectRatio="none"
        className="min-h-0 w-full flex-1 rounded border border-line bg-panel"
      >
        {heights.map((height, i) => {
          // the ends hold all that is clear or full: they would flatten everything else
          const tall = Math.min(1, height / Math.max(1, ...heights.slice(1, -1))) * 100;
          const wide = 1000 / heights.length;
          return <rect key={i} x={i * wide} y={100 - tall} width={wide} height={tall} className="fill-ink" />;
        })}
      </svg>
      <p className="flex justify-between text-[12px] text-soft">
        <span>{t.blackRemoves}</span>
        <span>{t.whiteKeeps}</span>
      </p>
    </>
  );
}

/** The change from each frame to the next over what is played; it can be ended at any time. */
function Flicker({ store, comp, owner }: Props & { owner: Owner }) {
  const { range, frame, set } = useDeskFields("range", "frame", "set");
  const { first, last } = store.getState().document;
  const [from, to] = range ?? [first, last];
  const [rows, setRows] = useState<{ frame: number; change: number }[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const running = useRef<AbortController | null>(null);
  const [busy, setBusy] = useState(false);
  useEffect(() => () => running.current?.abort(), []);

  async function measure() {
    const stop = new AbortController();
    running.current = stop;
    setBusy(true);
    setProblem(null);
    setRows([]);
    try {
      for (let f = from + 1; f <= to; f += 1) {
        const body = { frame: f, before: f - 1, ...owner };
        const got = await compCalls.matteFigures(comp, body, stop.signal);
        setRows((now) => [...now, { frame: f, change: got.change }]);
      }
    } catch (error) {
      const told = asProblem(error);
      if (told.code !== "cancelled") setProblem(told);
    }
    setBusy(false);
  }
  const most = Math.max(1e-6, ...rows.map((r) => r.change));
  const worst = rows.find((r) => r.change === most);
  return (
    <div className="pt-1">
      {problem && <ProblemNote problem={problem} />}
      {rows.length > 1 && (
        <svg
          role="img"
          aria-label={t.changeOfTheMatteFrom(percent(most))}
          viewBox="0 0 1000 100"
          preserveAspectRatio="none"
          className="h-9 w-full rounded border border-line bg-panel"
        >
          <polyline
            points={pointsOf(
              rows.map((r) => r.change),
              0,
              most,
            )}
            fill="none"
            className="stroke-accent"
            strokeWidth={1.5}
            vectorEffect="non-scaling-stroke"
          />
        </svg>
      )}
      <div className="flex items-center gap-2 pt-0.5">
        {busy ? (
          <>
            <ProgressBar name={t.measuringFlicker} done={rows.length} total={to - from} />
            <span className="num shrink-0 text-soft">
              {rows.length} / {to - from}
            </span>
            <Button className="min-h-6 px-1.5 py-0" onClick={() => running.current?.abort()}>
              {t.stop}
            </Button>
          </>
        ) : (
          <>
            <Button
              className="min-h-6 shrink-0 px-1.5 py-0"
              disabled={to <= from}
              onClick={() => void measure()}
            >
              {t.flicker}
            </Button>
            {worst && (
              <button
                type="button"
                className="min-w-0 truncate text-left hover:underline"
                title={t.goToThisFrame}
                onClick={() => set({ frame: worst.frame })}
              >
                {t.mostAt(worst.frame, percent(worst.change), worst.frame === frame ? " (here)" : "")}
              </button>
            )}
          </>
        )}
      </div>
    </div>
  );
}
