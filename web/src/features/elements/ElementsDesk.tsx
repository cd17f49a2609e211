/** All imported elements: what each one is, and how its alpha is read. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { asProblem, type ElementOut } from "../../api/client";
import { queries } from "../../api/queries";
import { Shell } from "../../parts/Shell";
import { Empty, ProblemNote, Waiting } from "../../ui/basics";
import { ImportButtons } from "./ImportButtons";
import { ColourButton } from "./ColourButton";
import { ElementColumn } from "./ElementColumn";
import { ElementPanel } from "./ElementPanel";
import { Frames } from "./Frames";
import { LibraryButton } from "./Libraries";
import { ManyPanel } from "./ManyPanel";
import { modeOf, MODES, type Mode } from "./mode";
import { PictureView } from "./PictureView";
import { CompareReadings } from "./CompareReadings";
import { UnfinishedImports } from "./UnfinishedImports";
import { Segments } from "../../ui/Segments";
import { text } from "./strings";

const t = text.ElementsDesk;

const NONE: ElementOut[] = [];

export function ElementsDesk() {
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  const [params, setParams] = useSearchParams();
  const [marked, setMarked] = useState<number[]>([]);
  const rows = elements.data ?? NONE;
  const chosen = rows.find((e) => e.id === Number(params.get("element"))) ?? rows[0];
  const mode = modeOf(params.get("view"));
  const several = marked.filter((m) => rows.some((r) => r.id === m));
  const go = (change: { element?: number; view?: Mode }) =>
    setParams(
      (old) => ({
        ...Object.fromEntries(old),
        element: String(change.element ?? chosen?.id ?? ""),
        view: change.view ?? mode,
      }),
      { replace: true },
    );
  return (
    <Shell>
      {elements.isPending && <Waiting what={t.lookingForTheElements} />}
      {elements.error && (
        <div className="p-4">
          <ProblemNote problem={asProblem(elements.error)} />
        </div>
      )}
      {elements.data && rows.length === 0 && (
        <div className="flex h-full flex-col">
          <UnfinishedImports project={project} />
          <Empty title={t.noElementsYet} action={<ImportButtons project={project} main />}>
            {t.dropStillsNumberedFramesMovies}
          </Empty>
          <div className="flex justify-center gap-2 p-2">
            <LibraryButton project={project} />
            <ColourButton project={project} />
          </div>
        </div>
      )}
      {chosen && (
        <div
          className={`grid h-full ${mode === "trial" && several.length < 2 ? "grid-cols-[16rem_minmax(0,1fr)]" : "grid-cols-[16rem_minmax(0,1fr)_20rem]"}`}
        >
          <ElementColumn
            project={project}
            rows={rows}
            chosen={chosen.id}
            marked={several}
            onMark={setMarked}
            onChoose={(id) => go({ element: id })}
          />
          <div className="flex min-h-0 min-w-0 flex-col">
            <div className="flex h-10 shrink-0 items-center gap-3 border-b border-line bg-card px-3">
              <Segments
                name={t.viewOfTheElement}
                value={mode}
                choices={[...MODES]}
                onChange={(view) => go({ view })}
              />
            </div>
            {mode === "picture" && (
              <PictureView key={chosen.id} element={chosen} project={project} rows={rows} />
            )}
            {mode === "trial" && <CompareReadings key={chosen.id} element={chosen} project={project} />}
            {mode === "frames" && (
              <Frames key={chosen.id} element={chosen} onLook={() => go({ view: "picture" })} />
            )}
          </div>
          <div
            className={`flex min-h-0 flex-col border-l border-line ${mode === "trial" && several.length < 2 ? "hidden" : ""}`}
          >
            {several.length > 1 ? (
              <ManyPanel
                rows={rows.filter((r) => several.includes(r.id))}
                all={rows}
                project={project}
                onDone={() => setMarked([])}
              />
            ) : (
              <ElementPanel
                key={chosen.id}
                element={chosen}
                rows={rows}
                project={project}
                onTrial={() => go({ view: "trial" })}
              />
            )}
          </div>
        </div>
      )}
    </Shell>
  );
}
