import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { changeLayer, layerOf, type CompDocument } from "../../../domain/comp";
import { pointsOf } from "../../../domain/shapes";
import { comp, show } from "../desk.testing";
import { useDesk } from "../deskState";
import { shownDocument, type DocumentStore } from "../documentStore";
import type { Ground } from "./ground";
import { ShapeOver } from "./ShapeOver";

beforeEach(() => useDesk.setState({ frame: 1 }));
afterEach(cleanup);

const ELLIPSE = {
  kind: "shape",
  shape: "ellipse",
  x: 5,
  y: -3,
  width: 40,
  height: 20,
  rotation: 0,
  keys: {},
};
const FREE = {
  kind: "shape",
  keys: {},
  shape: "free",
  // x, y and both handles of each point
  points: [0, 0, 0, 0, 0, 0, 30, 0, 0, 0, 0, 0, 30, 30, 0, 0, 0, 0],
};

function over(part: object) {
  const { store, write } = comp("kite");
  const [layer] = store.getState().document.layers;
  store.setState({
    document: changeLayer(store.getState().document, layer!.id, {
      matte: { parts: [part] } as never,
    }),
  });
  const ground = (document: CompDocument): Ground => ({
    store,
    comp: 1,
    layer: layerOf(document, layer!.id)!,
    transform: { x: 0, y: 0, scale: 1, rotation: 0 },
    frame: { width: 200, height: 100 },
    view: { zoom: 1, x: 0, y: 0 },
    room: { width: 200, height: 100 },
    toScreen: (x, y) => [x, y],
    toComp: (x, y) => [x, y],
  });
  const tool = {
    kind: "shape",
    owner: { layer: layer!.id, step: null },
    path: { of: "matte", step: null, part: 0 },
  } as const;
  show(store, (document) => <ShapeOver ground={ground(document)} tool={tool} />);
  return { store, write };
}

const partNow = (store: DocumentStore) => shownDocument(store.getState()).layers[0]!.matte!.parts[0] as never;
const grip = (name: string) => screen.getByRole("button", { name });

describe("a shape on the picture, by keys alone", () => {
  it("reaches every grip with Tab", () => {
    over(ELLIPSE);
    for (const name of ["Width of the shape", "Height of the shape", "Rotation of the shape"]) {
      grip(name).focus();
      expect(grip(name)).toHaveFocus();
      expect(grip(name)).toHaveAttribute("tabindex", "0");
    }
  });

  it("moves a side by arrow keys: a draft while the key is down, one entry of undo when it is let go", () => {
    const { store, write } = over(ELLIPSE);
    const width = grip("Width of the shape");
    for (let i = 0; i < 3; i += 1) fireEvent.keyDown(width, { key: "ArrowRight" });
    expect(partNow(store)).toMatchObject({ width: 46 });
    expect(write).not.toHaveBeenCalled();
    fireEvent.keyUp(width, { key: "ArrowRight" });
    expect(write).toHaveBeenCalledTimes(1);
    expect(store.getState().document.layers[0]!.matte!.parts[0]).toMatchObject({ width: 46, x: 5 });
  });

  it("moves by ten with Shift and by a tenth with Alt", () => {
    const { store } = over(ELLIPSE);
    const height = grip("Height of the shape");
    fireEvent.keyDown(height, { key: "ArrowDown", shiftKey: true });
    fireEvent.keyUp(height, { key: "ArrowDown" });
    expect(partNow(store)).toMatchObject({ height: 40 });
    fireEvent.keyDown(height, { key: "ArrowUp", altKey: true });
    fireEvent.keyUp(height, { key: "ArrowUp" });
    expect(partNow(store)).toMatchObject({ height: 39.8 });
  });

  it("moves the whole shape where no grip is chosen", () => {
    const { store } = over(ELLIPSE);
    const whole = screen.getByRole("application");
    fireEvent.keyDown(whole, { key: "ArrowLeft" });
    fireEvent.keyDown(whole, { key: "ArrowUp" });
    fireEvent.keyUp(whole, { key: "ArrowUp" });
    expect(partNow(store)).toMatchObject({ x: 4, y: -4, width: 40 });
  });

  it("moves a point, makes it round with Enter and takes it away with Delete", () => {
    const { store } = over(FREE);
    const second = grip("Point 2");
    second.focus();
    fireEvent.keyDown(second, { key: "ArrowRight" });
    fireEvent.keyUp(second, { key: "ArrowRight" });
    expect(pointsOf(partNow(store), 1)[1]).toMatchObject({ x: 31, y: 0 });
    fireEvent.keyDown(second, { key: "Enter" });
    expect(pointsOf(partNow(store), 1)[1]!.after).not.toEqual([0, 0]);
    expect(grip("Handle after point 2")).toBeVisible();
    fireEvent.keyDown(second, { key: "Delete" });
    expect(pointsOf(partNow(store), 1)).toHaveLength(2);
  });
});
