import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it } from "vitest";
import { addNote } from "../../domain/notes";
import { comp, show } from "./desk.testing";
import { useDesk } from "./deskState";
import { NotesOver, NotesSection } from "./Notes";

beforeEach(() => useDesk.setState({ frame: 5, noting: false, note: null, layer: null }));
afterEach(cleanup);

const VIEW = { zoom: 2, x: 100, y: 50 };
const ROOM = { width: 400, height: 200 };

function both(...words: string[]) {
  const { store } = comp("plate");
  const document = words.reduce(
    (d, text, i) => addNote(d, 5 + i, [10, 20], text)[0],
    store.getState().document,
  );
  store.setState({ document });
  show(store, () => (
    <>
      <NotesOver store={store} view={VIEW} room={ROOM} />
      <NotesSection store={store} />
    </>
  ));
  return store;
}

it("a note is pinned where the picture is clicked, at the frame that is seen, as one entry of undo", () => {
  const store = both();
  fireEvent.click(screen.getByRole("button", { name: "Pin a note (M)" }));
  const picture = screen.getByRole("application");
  // the room's middle shows the picture's middle, twice as large
  fireEvent.pointerDown(picture, { button: 0, clientX: 220, clientY: 120 });
  const field = screen.getByLabelText("What is to be done here");
  fireEvent.change(field, { target: { value: "the edge boils here" } });
  fireEvent.submit(field.closest("form")!);
  expect(store.getState().document.notes).toEqual([
    { id: "note1", text: "the edge boils here", frame: 5, x: 110, y: 60, done: false },
  ]);
  expect(useDesk.getState()).toMatchObject({ noting: false, note: "note1" });
});

it("Escape pins nothing", () => {
  const store = both();
  fireEvent.click(screen.getByRole("button", { name: "Pin a note (M)" }));
  fireEvent.pointerDown(screen.getByRole("application"), { button: 0, clientX: 9, clientY: 9 });
  fireEvent.keyDown(screen.getByLabelText("What is to be done here"), { key: "Escape" });
  expect(store.getState().document.notes).toEqual([]);
});

it("pins are those of the frame that is seen, and the list leads to the others", () => {
  both("hair", "reed");
  expect(screen.getByRole("button", { name: "Note: hair" })).toBeInTheDocument();
  expect(screen.queryByRole("button", { name: "Note: reed" })).not.toBeInTheDocument();
  fireEvent.click(screen.getByRole("button", { name: "Frame 6: reed" }));
  expect(useDesk.getState()).toMatchObject({ frame: 6, note: "note2" });
  expect(screen.getByRole("button", { name: "Note: reed" })).toHaveAttribute("aria-expanded", "true");
});

it("what is done goes to the end, and can be removed", () => {
  const store = both("hair", "reed");
  fireEvent.click(screen.getByLabelText("Done: hair"));
  const names = screen.getAllByRole("checkbox").map((box) => box.getAttribute("aria-label"));
  expect(names).toEqual(["Done: reed", "Done: hair"]);
  fireEvent.click(screen.getByRole("button", { name: "Remove the note: reed" }));
  expect(store.getState().document.notes.map((n) => n.text)).toEqual(["hair"]);
});
