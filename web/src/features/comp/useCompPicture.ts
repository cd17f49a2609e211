/** The comp's picture as it is asked for, and what it depends on besides the document. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import type { ElementOut } from "../../api/client";
import { queries } from "../../api/queries";
import type { CompDocument } from "../../domain/comp";
import { stamping } from "../../domain/stampOf";
import { usePicture } from "../../ui/usePicture";
import type { Wanted } from "../../ui/Viewer";
import { ASKED, askFor, drawnBy } from "./asking";
import { sidesOf, type Against } from "./comparing";
import { useDesk, useDeskFields } from "./deskState";
import { shownDocument, type DocumentStore } from "./documentStore";
import { RESTING } from "./draftPace";
import { useReady } from "./readyFrames";

/** What the elements are read as, and the cameras, are part of the picture: a change there asks for it again. */
export function useStamp(project: number, elements: ElementOut[]): (document: CompDocument) => string {
  const cameras = useQuery(queries.cameras(project)).data;
  const comparing = useDesk((d) => d.compare.how !== "off");
  // what it is compared with may show others
  return useMemo(() => stamping(elements, cameras ?? [], comparing), [elements, cameras, comparing]);
}

/** The newest picture. A change is asked for as soon as it is made, before the page shows it. */
export function useCompPicture(
  store: DocumentStore,
  comp: number,
  wanted: Wanted | null,
  stampFor: (document: CompDocument) => string,
  against: Against | undefined,
) {
  const desk = useDeskFields(...ASKED);
  const compare = useDesk((d) => d.compare);
  const document = store(shownDocument);
  const drafting = store((s) => s.draft !== null);
  const address = `/api/comps/${comp}/picture`;
  const readings = stampFor(store((s) => s.document));
  const ask = useMemo(
    () => wanted && askFor(desk, wanted, document, drafting),
    [desk, wanted, document, drafting],
  );
  const shown = useMemo(() => ask && drawnBy(ask), [ask]);
  const sides = ask && shown && sidesOf(compare.how === "off" ? shown : ask, compare, against);
  // what is ready is not asked for again while it plays
  const held = useReady((r) => desk.playing && r.frames.has(desk.frame));
  const picture = usePicture(sides && !held ? { address, ask: sides.first, stamp: readings } : null, "comp");
  const second = sides?.second ?? null;
  const other = usePicture(second && { address, ask: second, stamp: readings }, "comp-other");
  const { want, idle } = picture;
  useEffect(() => {
    let resting = 0;
    const stop = store.subscribe(({ draft, document }, before) => {
      if (draft === before.draft && document === before.document) return;
      window.clearTimeout(resting);
      const now = useDesk.getState();
      // a comparison is drawn once the page knows both sides
      if (!wanted || now.compare.how !== "off") return;
      if (!draft) {
        if (document !== before.document && !now.playing)
          want({ address, ask: drawnBy(askFor(now, wanted, document, false)), stamp: stampFor(document) });
        return;
      }
      const ask = drawnBy(askFor(now, wanted, draft, true));
      const stamp = stampFor(document);
      want({ address, ask, stamp });
      if (ask.level === wanted.level) return;
      // held still since it was seen: as fine as ever
      const finer = () => {
        if (idle()) want({ address, ask: { ...ask, ...wanted }, stamp, yields: true });
        else resting = window.setTimeout(finer, RESTING);
      };
      resting = window.setTimeout(finer, RESTING);
    });
    return () => {
      window.clearTimeout(resting);
      stop();
    };
  }, [store, want, idle, wanted, address, stampFor]);
  return { picture, ask, shown, readings, other: second ? other : null };
}
