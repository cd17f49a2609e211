/** Notes pinned to frames and places: their list in the comp's column, and their pins on the picture. */
import { MapPin, Trash2 } from "lucide-react";
import { useState, type PointerEvent, type ReactNode } from "react";
import { toComp, toScreen, type Size, type View } from "../../domain/geometry";
import { addNote, changeNote, notesInOrder, removeNote, type Note } from "../../domain/notes";
import { clampFrame } from "../../domain/time";
import { Button, SignButton } from "../../ui/basics";
import { useDesk } from "./deskState";
import { shownDocument, type DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.Notes;

export function NotesSection({ store }: { store: DocumentStore }) {
  const { notes, first, last } = store(shownDocument);
  const noting = useDesk((d) => d.noting);
  const { commit } = store.getState();
  return (
    <section aria-label={t.notes}>
      <h3 className="mb-1 font-semibold">{t.notes}</h3>
      {notes.length === 0 && <p className="mb-1.5 text-soft">{t.noNotes}</p>}
      <ul className="mb-1.5 space-y-1">
        {notesInOrder(notes).map((note) => (
          <li key={note.id} className="flex items-start gap-1.5">
            <input
              type="checkbox"
              aria-label={t.isDone(note.text)}
              checked={note.done}
              onChange={(event) =>
                commit((d) => changeNote(d, note.id, { done: event.target.checked }), t.noteDone)
              }
              className="mt-1 size-4 shrink-0 accent-[var(--accent)]"
            />
            <button
              type="button"
              aria-label={t.goTo(note.frame, note.text)}
              onClick={() =>
                useDesk.setState({
                  frame: clampFrame(note.frame, first, last),
                  playing: false,
                  note: note.id,
                })
              }
              className={`min-w-0 flex-1 text-left [overflow-wrap:anywhere] hover:underline ${note.done ? "text-soft line-through" : ""}`}
            >
              {note.text} <span className="num text-soft">{t.atFrame(note.frame)}</span>
            </button>
            <SignButton
              name={t.remove(note.text)}
              className="!min-h-6 !min-w-6 !px-0"
              onClick={() => commit((d) => removeNote(d, note.id), t.noteOff)}
            >
              <Trash2 className="size-3.5" />
            </SignButton>
          </li>
        ))}
      </ul>
      <Button
        aria-pressed={noting}
        className="aria-pressed:border-accent aria-pressed:text-accent"
        onClick={() => useDesk.setState({ noting: !noting, layer: null, also: [] })}
      >
        <MapPin className="size-3.5" /> {t.pinANote}
      </Button>
      {noting && <p className="mt-1 text-soft">{t.clickWhere}</p>}
    </section>
  );
}

interface Props {
  store: DocumentStore;
  view: View;
  room: Size;
}

/** Where notes are pinned on this frame; while one is being pinned, the picture takes the click. */
export function NotesOver({ store, view, room }: Props): ReactNode {
  const document = store(shownDocument);
  const frame = useDesk((d) => d.frame);
  const open = useDesk((d) => d.note);
  const noting = useDesk((d) => d.noting);
  const [at, setAt] = useState<[number, number] | null>(null);
  const pins = document.notes.filter((n) => n.frame === frame);
  const press = (event: PointerEvent) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const box = event.currentTarget.getBoundingClientRect();
    setAt(toComp(view, room, event.clientX - box.left, event.clientY - box.top));
  };
  return (
    <>
      {noting && (
        <div
          data-tool="note"
          role="application"
          aria-label={t.clickWhere}
          className="absolute inset-0 cursor-crosshair touch-none"
          onPointerDown={press}
          onDoubleClick={(event) => event.stopPropagation()}
        />
      )}
      {pins.map((note) => (
        <Pin
          key={note.id}
          note={note}
          place={toScreen(view, room, note.x, note.y)}
          open={open === note.id}
          onToggle={() => useDesk.setState({ note: open === note.id ? null : note.id })}
        />
      ))}
      {noting && at && (
        <NewNote
          place={toScreen(view, room, ...at)}
          onDone={(words) => {
            setAt(null);
            useDesk.setState({ noting: false });
            if (!words) return;
            const { document: now, commit } = store.getState();
            const [, id] = addNote(now, frame, at, words);
            commit((d) => addNote(d, frame, at, words)[0], t.noteAt(frame));
            useDesk.setState({ note: id });
          }}
        />
      )}
    </>
  );
}

interface PinProps {
  note: Note;
  place: [number, number];
  open: boolean;
  onToggle: () => void;
}

function Pin({ note, place: [x, y], open, onToggle }: PinProps) {
  return (
    <div className="absolute" style={{ left: x, top: y }} onPointerDown={(event) => event.stopPropagation()}>
      <button
        type="button"
        aria-label={t.note(note.text)}
        aria-expanded={open}
        title={note.text}
        onClick={onToggle}
        className={`absolute size-6 -translate-x-1/2 -translate-y-full rounded-full rounded-br-none border-2 border-white shadow-[0_0_0_1px_black] ${note.done ? "bg-soft" : "bg-accent"} rotate-45`}
      />
      {open && (
        <p className="absolute top-1 left-3 max-h-40 w-56 overflow-auto rounded-md border border-line bg-card px-2 py-1 [overflow-wrap:anywhere] shadow">
          {note.text}
        </p>
      )}
    </div>
  );
}

/** Enter pins it, Escape or nothing written leaves it. */
function NewNote({ place: [x, y], onDone }: { place: [number, number]; onDone: (words: string) => void }) {
  const [words, setWords] = useState("");
  return (
    <form
      className="absolute z-10 flex w-64 gap-1 rounded-md border border-accent bg-card p-1 shadow"
      style={{ left: x, top: y }}
      onPointerDown={(event) => event.stopPropagation()}
      onSubmit={(event) => {
        event.preventDefault();
        onDone(words.trim());
      }}
    >
      <input
        autoFocus
        aria-label={t.whatIsToBeDone}
        placeholder={t.whatIsToBeDone}
        maxLength={2000}
        value={words}
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "Escape") onDone("");
        }}
        className="min-w-0 flex-1 rounded border border-line bg-panel px-1.5"
      />
      <Button type="submit" disabled={!words.trim()}>
        {t.pin}
      </Button>
    </form>
  );
}
