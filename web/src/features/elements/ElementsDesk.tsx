/** All imported elements: what each one is, and how its alpha is read. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { asProblem, type ElementOut } from "../../api/client";
import { queries } from "../../api/queries";
import { Shell } from "../../parts/Shell";
import { EVERYTHING, searched } from "../../domain/elementSearch";
import { counted } from "../../domain/words";
import { Empty, ProblemNote, Waiting } from "../../ui/basics";
import { ImportButtons } from "./ImportButtons";
import { ColourButton } from "./ColourButton";
import { ElementList } from "./ElementList";
import { ElementPanel } from "./ElementPanel";
import { Frames } from "./Frames";
import { LabelBar } from "./Labels";
import { LibraryButton } from "./Libraries";
import { ManyPanel } from "./ManyPanel";
import { modeOf, MODES, type Mode } from "./mode";
import { JoinPairs } from "./JoinPairs";
import { PictureView } from "./PictureView";
import { CompareReadings } from "./CompareReadings";
import { Unused } from "./RemoveMany";
import { NothingFound, SearchBar } from "./SearchBar";
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
  const [search, setSearch] = useState(EVERYTHING);
  const rows = elements.data ?? NONE;
  const looksForUnused = search.kind === "unused";
  const unused = useQuery({ ...queries.unused(project), enabled: looksForUnused }).data;
  const found = useMemo(() => searched(rows, search, new Set(unused)), [rows, search, unused]);
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
          <div className="flex min-h-0 flex-col border-r border-line">
            <div className="border-b border-line px-2 py-2">
              <div className="flex items-center justify-between gap-1">
                <h1 className="min-w-0 truncate pl-1 font-semibold">
                  {found.length === rows.length
                    ? counted(rows.length, "element")
                    : t.ofAll(found.length, rows.length.toLocaleString("en"))}
                </h1>
                <span className="flex shrink-0 gap-0.5">
                  <LibraryButton project={project} />
                  <ImportButtons project={project} />
                </span>
              </div>
              <SearchBar search={search} onSearch={setSearch} />
              <LabelBar {...{ rows, project, search }} onSearch={setSearch} />
            </div>
            <UnfinishedImports project={project} />
            <JoinPairs project={project} rows={rows} />
            {looksForUnused && found.length > 0 && <Unused rows={found} project={project} />}
            {found.length === 0 && <NothingFound onSearch={setSearch} />}
            <ElementList
              rows={found}
              all={rows}
              chosen={chosen.id}
              marked={several}
              onMark={setMarked}
              onChoose={(id) => go({ element: id })}
            />
          </div>
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
