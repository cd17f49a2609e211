import { act, cleanup, fireEvent, screen, within } from "@testing-library/react";
import { afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import {
  addPart,
  matteInWords,
  matteOf,
  newChannel,
  newKey,
  newPaint,
  newShape,
  withMatte,
} from "../../../domain/mattes";
import type { Part } from "../../../domain/mattes";
import { comp, layerNow, show } from "../desk.testing";
import { stubLayout } from "../../../ui/layout.testing";
import { useDesk } from "../deskState";
import { MatteEditor } from "./MatteEditor";

beforeAll(stubLayout);
beforeEach(() => useDesk.setState({ layer: "layer2", matteShown: null, tool: null, board: null }));
afterEach(cleanup);

const OWNER = { layer: "layer2", step: null };

function editor(...parts: Part[]) {
  const { store, write } = comp("plate", "kite");
  act(() => {
    for (const part of parts)
      store.getState().commit((d) => withMatte(d, OWNER, (m) => addPart(m, part)), "set up");
  });
  show(store, (document) => (
    <MatteEditor store={store} layer={layerNow(document, "layer2")} step={null} called="kite" />
  ));
  const matte = () => matteOf(store.getState().document, OWNER);
  const words = () =>
    matteInWords(matte(), (s) => (s ? layerNow(store.getState().document, s.slice(6)).name : "itself"));
  return { store, write, matte, words };
}

const press = (element: HTMLElement) => act(() => Promise.resolve(fireEvent.click(element)));
const part = (n: number) => within(screen.getByRole("region", { name: `Part ${n} of the matte` }));
const type = async (label: string, text: string) => {
  const input = screen.getByLabelText<HTMLInputElement>(label);
  fireEvent.focus(input);
  fireEvent.change(input, { target: { value: text } });
  await act(() => Promise.resolve(fireEvent.blur(input)));
};

/** ↓ on a closed list takes the next one. */
const nextOption = (list: HTMLElement) => act(() => void fireEvent.keyDown(list, { key: "ArrowDown" }));

describe("the matte of a layer", () => {
  it("says what it is for while there is none", () => {
    editor();
    expect(screen.getByText(/White keeps, black removes/)).toBeVisible();
    expect(screen.queryByText("remove specks")).toBeNull();
  });

  it("is a list whose parts come in one after another", async () => {
    const { words } = editor(newChannel("layer:layer1"), newShape());
    expect(words()).toMatch(/^alpha of plate, add ellipse$/);
    nextOption(part(2).getByRole("combobox", { name: "How part 2 is combined" }));
    expect(words()).toBe("alpha of plate, subtract ellipse");
    nextOption(part(2).getByRole("combobox", { name: "How part 2 is combined" }));
    expect(words()).toMatch(/^alpha of plate, intersect ellipse$/);
    await press(part(1).getByRole("checkbox", { name: "Part 1 on" }));
    expect(words()).not.toMatch(/plate/);
  });

  it("loses a part, and nothing else", async () => {
    const { words, write } = editor(newChannel("layer:layer1"), newChannel("", { channel: "luma" }));
    await press(part(1).getByRole("button", { name: "Take this part out" }));
    expect(words()).toBe("luma of itself");
    expect(write.mock.calls.at(-1)?.[2]).toBe("part off kite");
  });

  it("inverts a part, or all of it", async () => {
    const { words } = editor(newChannel("layer:layer1"));
    await press(part(1).getByRole("button", { name: "Invert this part" }));
    expect(words()).toBe("alpha of plate, inverted");
    await press(screen.getByRole("checkbox", { name: /^inverted/ }));
    expect(words()).toBe("all but alpha of plate, inverted");
    await press(screen.getByRole("checkbox", { name: "on" }));
    expect(words()).toMatch(/^off: /);
  });

  it("is refined by numbers that are typed", async () => {
    const { matte, write } = editor(newChannel("layer:layer1"));
    for (const [name, text] of [
      ["remove specks", "20"],
      ["fill holes", "12"],
      ["steady", "2"],
      ["grow / shrink", "-0.75"],
      ["soften", "1.5"],
    ] as const)
      await type(name, text);
    expect(matte()).toMatchObject({ specks: 20, holes: 12, steady: 2, grow: -0.75, soften: 1.5 });
    expect(write.mock.calls.at(-1)?.[2]).toBe("soften of the matte of kite");
    await type("steady", "9");
    expect(screen.getByRole("alert")).toHaveTextContent("steady goes from 0 to 5");
  });

  it("warns of a shrink that hides what is wrong elsewhere", async () => {
    editor(newChannel("layer:layer1"));
    expect(screen.queryByRole("note")).toBeNull();
    await type("grow / shrink", "-2.9");
    expect(screen.queryByRole("note")).toBeNull();
    await type("grow / shrink", "-4");
    expect(screen.getByRole("note")).toHaveTextContent("Shrunk by 4 px.");
    expect(screen.getByRole("note")).toHaveTextContent("try the reading");
  });

  it("asks for a band where the edge is found in the picture, and for none where it is not", () => {
    editor(newChannel("layer:layer1"));
    expect(screen.queryByLabelText("band")).toBeNull();
    nextOption(screen.getByRole("combobox", { name: "Edge" }));
    expect(screen.getByRole("combobox", { name: "Edge" })).toHaveTextContent("Found in the picture");
    expect(screen.getByLabelText("band")).toHaveValue("3");
    expect(screen.getByLabelText("trust")).toHaveValue("0.001");
  });

  it("takes the card out of edges only where there is a key of its own", () => {
    const last = () => {
      const edges = () => screen.getByRole("combobox", { name: "Edge colour" });
      for (let i = 0; i < 4; i += 1) nextOption(edges());
      return edges().textContent;
    };
    editor(newChannel("layer:layer1"));
    expect(last()).toBe("Freed of what lay behind");
    cleanup();
    editor(newKey(""));
    expect(last()).toBe("Remove screen colour");
  });

  it("is looked at as a whole, or one part of it alone", async () => {
    editor(newChannel("layer:layer1"), newPaint());
    await press(screen.getByRole("radio", { name: "Grey" }));
    expect(useDesk.getState().matteShown).toEqual({ owner: OWNER, part: null });
    expect(useDesk.getState().look.channel).toBe("alpha");
    await press(part(1).getByRole("button", { name: "Look at this part alone" }));
    expect(useDesk.getState().matteShown).toEqual({ owner: OWNER, part: 0 });
    await press(part(1).getByRole("button", { name: "Look at the picture again" }));
    expect(useDesk.getState().matteShown).toBeNull();
    expect(part(2).getByText("paint, over what is above")).toBeVisible();
  });
});
