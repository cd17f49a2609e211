/** The column of elements: search, labels, the list. What is typed into the search redraws it alone. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import type { ElementOut } from "../../api/client";
import { queries } from "../../api/queries";
import { EVERYTHING, searched } from "../../domain/elementSearch";
import { counted } from "../../domain/words";
import { ElementList } from "./ElementList";
import { ImportButtons } from "./ImportButtons";
import { JoinPairs } from "./JoinPairs";
import { LabelBar } from "./Labels";
import { LibraryButton } from "./Libraries";
import { Unused } from "./RemoveMany";
import { NothingFound, SearchBar } from "./SearchBar";
import { UnfinishedImports } from "./UnfinishedImports";
import { text } from "./strings";

const t = text.ElementColumn;

interface Props {
  project: number;
  rows: ElementOut[];
  chosen: number;
  marked: number[];
  onMark: (ids: number[]) => void;
  onChoose: (id: number) => void;
}

export function ElementColumn({ project, rows, chosen, marked, onMark, onChoose }: Props) {
  const [search, setSearch] = useState(EVERYTHING);
  const looksForUnused = search.kind === "unused";
  const unused = useQuery({ ...queries.unused(project), enabled: looksForUnused }).data;
  const found = useMemo(() => searched(rows, search, new Set(unused)), [rows, search, unused]);
  return (
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
      <ElementList rows={found} all={rows} {...{ chosen, marked, onMark, onChoose }} />
    </div>
  );
}
