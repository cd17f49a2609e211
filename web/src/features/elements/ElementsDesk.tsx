/** Everything that was brought in: what it is, and how its alpha is read. */
import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { asProblem, type ElementOut } from "../../api/client";
import type { ElementAsk, Look } from "../../api/pictures";
import { queries } from "../../api/queries";
import { useBringing } from "../../app/bringing";
import { Shell } from "../../app/Shell";
import type { View } from "../../domain/geometry";
import { restingFrame } from "../../domain/time";
import { FIRST_LOOK, LookBar } from "../../parts/LookBar";
import { useReading } from "../../parts/useReading";
import { useSample, Values } from "../../parts/Values";
import { Button, Empty, ProblemNote, Waiting } from "../../ui/basics";
import { usePicture } from "../../ui/usePicture";
import { Viewer, type Wanted } from "../../ui/Viewer";
import { ElementFacts } from "./ElementFacts";
import { ElementList } from "./ElementList";

export function ElementsDesk() {
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  const [params, setParams] = useSearchParams();
  const rows = elements.data ?? [];
  const chosen = rows.find((e) => e.id === Number(params.get("element"))) ?? rows[0];
  return (
    <Shell>
      {elements.isPending && <Waiting what="Looking for the elements" />}
      {elements.error && (
        <div className="p-4">
          <ProblemNote problem={asProblem(elements.error)} />
        </div>
      )}
      {elements.data && rows.length === 0 && (
        <Empty title="No elements yet" action={<BringButton project={project} main />}>
          Drop stills, numbered frames or movies anywhere on the page, or choose them. Numbered frames become
          one sequence.
        </Empty>
      )}
      {chosen && (
        <div className="grid h-full grid-cols-[17rem_minmax(0,1fr)_21rem]">
          <div className="flex min-h-0 flex-col border-r border-line">
            <div className="flex items-center justify-between border-b border-line px-3 py-2">
              <h1 className="font-semibold">{rows.length} elements</h1>
              <BringButton project={project} />
            </div>
            <ElementList
              rows={rows}
              chosen={chosen.id}
              onChoose={(id) => setParams({ element: String(id) }, { replace: true })}
            />
          </div>
          <ElementView key={chosen.id} element={chosen} project={project} />
        </div>
      )}
    </Shell>
  );
}

export function BringButton({ project, main }: { project: number; main?: boolean }) {
  const input = useRef<HTMLInputElement>(null);
  const bring = useBringing((s) => s.bring);
  return (
    <>
      <Button kind={main ? "main" : "plain"} onClick={() => input.current?.click()}>
        <Plus className="size-4" /> Bring in
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Files to bring in"
        onChange={(event) => {
          void bring(project, [...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
    </>
  );
}

function ElementView({ element, project }: { element: ElementOut; project: number }) {
  const [look, setLook] = useState<Look>(FIRST_LOOK);
  const [view, setView] = useState<View | null>(null);
  const [wanted, setWanted] = useState<Wanted>({ level: 1, region: null });
  const [point, setPoint] = useState<[number, number] | null>(null);
  const [picking, setPicking] = useState(false);
  const facts = element.facts;
  const { width, height } = facts ?? { width: 0, height: 0 };
  const size = useMemo(() => ({ width, height }), [width, height]);
  const [frame, setFrame] = useState<number>();
  const number = frame ?? (facts ? restingFrame(facts) : 0);
  const { set, undo } = useReading(project);

  const ready = element.state === "ready";
  const ask = useMemo<ElementAsk | null>(
    () =>
      ready
        ? {
            frame: number,
            ...wanted,
            look,
            quality: "exact",
            reading: element.reading,
            encoding: element.encoding,
          }
        : null,
    [ready, number, wanted, look, element.reading, element.encoding],
  );
  const picture = usePicture(ask && { address: `/api/elements/${element.id}/picture`, ask }, "element");
  const sample = useSample("element", element.id, ask, point);

  useEffect(() => {
    if (!picking) return;
    const stop = (event: KeyboardEvent) => event.key === "Escape" && setPicking(false);
    window.addEventListener("keydown", stop);
    return () => window.removeEventListener("keydown", stop);
  }, [picking]);

  const pick = () => {
    setPicking(false);
    const stored = sample?.stored;
    if (!stored) return;
    const matte = stored.slice(0, 3).map((v) => Math.max(0, Math.min(1, v))) as [number, number, number];
    set.mutate({
      elements: [element.id],
      reading: { ...element.reading, alpha: "premultiplied", matte } as never,
    });
  };

  return (
    <>
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line bg-card px-3 py-1.5">
          <LookBar look={look} onLook={setLook} />
        </div>
        <div className="min-h-0 flex-1">
          {ready && facts ? (
            <Viewer
              name={`Picture of ${element.name}`}
              frame={size}
              drawn={picture.drawn}
              drawnLevel={picture.level}
              view={view}
              onView={setView}
              onWanted={setWanted}
              onPoint={setPoint}
              onPick={picking ? pick : undefined}
            />
          ) : (
            <div className="p-4">
              {element.problem ? (
                <ProblemNote problem={element.problem} />
              ) : (
                <Waiting what="Looking at the file" />
              )}
            </div>
          )}
        </div>
        {picture.problem && (
          <div className="p-2">
            <ProblemNote problem={picture.problem} />
          </div>
        )}
        {facts && facts.kind !== "still" && (
          <label className="flex items-center gap-3 border-t border-line bg-card px-3 py-2">
            <span className="text-soft">frame</span>
            <input
              type="range"
              min={facts.first}
              max={facts.last}
              value={number}
              onChange={(event) => setFrame(Number(event.target.value))}
              className="flex-1 accent-[var(--accent)]"
            />
            <span className="num w-20 text-right">
              {number} / {facts.last}
            </span>
          </label>
        )}
      </div>
      <div className="flex min-h-0 flex-col border-l border-line">
        <ElementFacts
          element={element}
          set={set}
          undo={undo}
          picking={picking}
          onPicking={setPicking}
          project={project}
        />
        <div className="border-t border-line bg-card">
          <Values point={point} sample={sample} />
        </div>
      </div>
    </>
  );
}
