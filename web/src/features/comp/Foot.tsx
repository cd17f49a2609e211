/** The foot: size, time to draw, undo and redo, and whether everything is saved. */
import { Redo2, Undo2, X } from "lucide-react";
import { aloneIn } from "../../domain/alone";
import { layerOf, type CompDocument } from "../../domain/comp";
import { Button, SignButton } from "../../ui/basics";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { useDrawTime } from "./drawTime";
import { useReady } from "./readyFrames";
import { CommandList } from "./CommandList";
import { text } from "./strings";

const t = text.Foot;

export function Foot({ store }: { store: DocumentStore }) {
  const { undo, redo } = store.getState();
  const comp = store((s) => s.comp);
  const document = store((s) => s.document);
  const saving = store((s) => s.saving);
  const problem = store((s) => s.problem);
  return (
    <footer className="num flex whitespace-nowrap h-7 shrink-0 items-center gap-3 border-t border-line bg-card px-3 text-soft">
      <span>
        {document.width} × {document.height}
      </span>
      <DrawTime />
      <Zoom document={document} />
      <ReadyCount document={document} />
      <ShownAlone document={document} />
      <span className="ml-auto flex items-center gap-1">
        <SignButton
          name={comp.can_undo ? t.undoCtrlZ(comp.can_undo) : t.nothingToUndo}
          disabled={!comp.can_undo || saving}
          onClick={undo}
          className="min-h-5"
        >
          <Undo2 className="size-4" />
        </SignButton>
        <SignButton
          name={comp.can_redo ? t.redoCtrlShiftZ(comp.can_redo) : t.nothingToRedo}
          disabled={!comp.can_redo || saving}
          onClick={redo}
          className="min-h-5"
        >
          <Redo2 className="size-4" />
        </SignButton>
      </span>
      <CommandList store={store} />
      <span role="status" className={problem ? "text-error" : ""}>
        {problem ? t.notSaved : saving ? t.saving : t.savedRevision(comp.revision)}
      </span>
    </footer>
  );
}

function ReadyCount({ document }: { document: CompDocument }) {
  const { frames, full, dropped } = useReady();
  const playing = useDesk((d) => d.playing);
  const all = document.last - document.first + 1;
  return (
    <span title={t.framesThatAreReadyTo}>
      {t.ready(frames.size, all)}
      {full ? t.memoryFull : ""}
      {(playing || dropped > 0) && <span className={dropped ? "text-warn" : ""}>{t.dropped(dropped)}</span>}
    </span>
  );
}

/** Which layers are looked at alone, where some are; pressed, all are again. */
function ShownAlone({ document }: { document: CompDocument }) {
  const alone = useDesk((d) => d.alone);
  const names = aloneIn(document, alone).map((id) => layerOf(document, id)!.name);
  if (names.length === 0) return null;
  return (
    <Button
      kind="quiet"
      title={t.aloneHelp(names.join(", "))}
      onClick={() => useDesk.setState({ alone: [] })}
      className="!min-h-5 bg-accent-soft !py-0 font-medium text-accent"
    >
      {t.shownAlone(names.length)}
      <X aria-hidden className="size-3.5 shrink-0" />
    </Button>
  );
}

function DrawTime() {
  const { milliseconds, waiting } = useDrawTime();
  if (waiting || milliseconds === null) return <span className="animate-pulse text-accent">{t.drawing}</span>;
  return <span>{t.drawnInMs(Math.round(milliseconds))}</span>;
}

function Zoom({ document }: { document: CompDocument }) {
  const view = useDesk((d) => d.view);
  const set = useDesk((d) => d.set);
  const pixel = { zoom: 1 / window.devicePixelRatio, x: document.width / 2, y: document.height / 2 };
  const percent = view && Math.round(view.zoom * window.devicePixelRatio * 100);
  return (
    <span className="flex items-center gap-0.5">
      <Button
        kind="quiet"
        className="!min-h-5 !py-0"
        title={t.fitF}
        aria-pressed={!view}
        onClick={() => set({ view: null })}
      >
        {t.fit}
      </Button>
      <Button kind="quiet" className="!min-h-5 !py-0" title="100 % (P)" onClick={() => set({ view: pixel })}>
        100 %
      </Button>
      <span className="w-14 text-right">{percent ? `${percent} %` : t.fitted}</span>
    </span>
  );
}
