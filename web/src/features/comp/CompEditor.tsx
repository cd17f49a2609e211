/** One comp on the desk: picture, time and lineup on the left, recipe and values on the right. */
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { asProblem, type CompOut, type CompRow } from "../../api/client";
import { queries } from "../../api/queries";
import { clampFrame } from "../../domain/time";
import { ProblemNote, Waiting } from "../../ui/basics";
import { CompSettings } from "./CompSettings";
import { Curves } from "./Curves";
import { fromParams, toParams, useDesk } from "./deskState";
import { createDocumentStore, serverCalls } from "./documentStore";
import { Foot } from "./Foot";
import { FramesPanel } from "./FramesPanel";
import { LayerBound } from "./LayerBound";
import { Lineup } from "./Lineup";
import { ListDialog } from "./list/ListDialog";
import { NotPasted } from "./pasting";
import { Picture } from "./Picture";
import { useReady } from "./readyFrames";
import { Recipe } from "./Recipe";
import { LockedNote, Refused } from "./Refused";
import { TimeBar } from "./TimeBar";
import { compAsElement } from "../../domain/compSource";
import { useKeys } from "./useKeys";
import { usePlaying } from "./usePlaying";
import { text } from "./strings";

const t = text.CompEditor;

// Each part takes from the store what it shows: while something is dragged, only what changes is rendered.

const NOTHING_DRAWN = {
  tool: null,
  board: null,
  matching: null,
  matteShown: null,
  list: false,
  settings: false,
  noting: false,
  note: null,
  notPasted: null,
  regions: { stay: [], go: [] },
};

export function CompEditor({ comp, project }: { comp: number; project: number }) {
  const data = useQuery(queries.comp(comp));
  if (data.error) {
    return (
      <div className="p-4">
        <ProblemNote problem={asProblem(data.error)} />
      </div>
    );
  }
  if (!data.data) return <Waiting what={t.openingTheComp} />;
  return <OpenComp first={data.data} newest={data.data} project={project} />;
}

function OpenComp({ first, newest, project }: { first: CompOut; newest: CompOut; project: number }) {
  // made once, with what the address says; later states come in through adopt
  const [params] = useSearchParams();
  const [store] = useState(() => {
    const asked = fromParams(params, first.document.first);
    const frame = clampFrame(asked.frame ?? 1, first.document.first, first.document.last);
    useDesk.setState({ ...asked, frame, range: null, mark: null, alone: [], ...NOTHING_DRAWN });
    useReady.setState({ dropped: 0 }); // of the comp before
    return createDocumentStore(first, serverCalls(first.id));
  });
  const elements = useQuery(queries.elements(project));
  const document = store((s) => s.document);
  const problem = store((s) => s.problem);

  useEffect(() => store.getState().adopt(newest), [store, newest]);
  useAddress(first.id);
  usePlaying(document);
  useKeys(store);

  const curves = useDesk((d) => d.curves);
  const frames = useDesk((d) => d.frames);

  // a change of this comp changes nothing of the others, and so nothing that is shown of them
  const others = useCallback(
    (comps: CompRow[]) => comps.filter((c) => c.id !== first.id).map(compAsElement),
    [first.id],
  );
  const comps = useQuery({ ...queries.comps(project), select: others });
  // what layers can show: elements, and the other comps
  const rows = useMemo(() => [...(elements.data ?? []), ...(comps.data ?? [])], [elements.data, comps.data]);
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_21rem] min-[1700px]:grid-cols-[minmax(0,1fr)_26rem]">
      <div className="flex min-h-0 min-w-0 flex-col">
        <Picture store={store} comp={first.id} elements={rows} project={project} />
        {problem && <Refused store={store} />}
        <LockedNote store={store} />
        <NotPasted />
        <TimeBar document={document} />
        {curves && <Curves store={store} />}
        {frames && <FramesPanel store={store} comp={first.id} />}
        <Lineup store={store} elements={rows} />
        <Foot store={store} />
      </div>
      <LayerBound store={store} />
      <CompSettings store={store} />
      <ListDialog store={store} comp={first.id} project={project} />
      <Recipe store={store} elements={rows} project={project} comp={first.id} />
    </div>
  );
}

/** The address holds what is looked at: written a moment after it rests. */
function useAddress(comp: number): void {
  const [, setParams] = useSearchParams();
  useEffect(() => {
    let timer = 0;
    let written = "";
    const later = () => {
      window.clearTimeout(timer);
      if (useDesk.getState().playing) return;
      timer = window.setTimeout(() => {
        // another comp may have been chosen meanwhile: its address is not ours to write
        if (!window.location.pathname.endsWith(`/comp/${comp}`)) return;
        const params = toParams(useDesk.getState());
        if (params.toString() === written) return;
        written = params.toString();
        setParams(params, { replace: true });
      }, 250);
    };
    later();
    const stop = useDesk.subscribe(later);
    return () => {
      window.clearTimeout(timer);
      stop();
    };
  }, [setParams, comp]);
}
