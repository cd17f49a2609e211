import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { changeLayer, layerOf, type CompDocument } from "../../../domain/comp";
import { partOf, type Part } from "../../../domain/parts";
import { comp, show } from "../desk.testing";
import { useDesk } from "../deskState";
import { shownDocument } from "../documentStore";
import type { Ground } from "./ground";
import { formOf, toolOf } from "./hands";
import { PointsOver } from "./PointsOver";

beforeEach(() => {
  useDesk.setState({ frame: 1 });
  // the test's document has no pointers to capture
  HTMLElement.prototype.setPointerCapture = () => undefined;
});
afterEach(cleanup);

const ACTS = { through: { by: "everywhere" }, mix: 1, channels: "rgb", keys: {}, on: true };
const CROP = { ...ACTS, kind: "crop", left: 10, top: 0, right: 20, bottom: 0 };
const PIN = {
  ...ACTS,
  kind: "corner_pin",
  top_left: [4, 2],
  top_right: [0, 0],
  bottom_right: [0, 0],
  bottom_left: [0, 0],
};

/** A step of a layer of 100 x 60 in the middle of a comp of 200 x 100, seen pixel for pixel. */
function over(step: object) {
  const { store, write } = comp("kite");
  const [layer] = store.getState().document.layers;
  store.setState({
    document: changeLayer(store.getState().document, layer!.id, { steps: [step] as never }),
  });
  const path = { of: "step", index: 0 } as const;
  const ground = (document: CompDocument): Ground => ({
    store,
    comp: 1,
    layer: layerOf(document, layer!.id)!,
    transform: { x: 0, y: 0, scale: 1, rotation: 0, size: { width: 100, height: 60 } },
    frame: { width: 200, height: 100 },
    view: { zoom: 1, x: 0, y: 0 },
    room: { width: 200, height: 100 },
    toScreen: (x, y) => [x, y],
    toComp: (x, y) => [x, y],
  });
  const tool = { kind: "points", owner: { layer: layer!.id, step: null }, path } as const;
  show(store, (document) => <PointsOver ground={ground(document)} tool={tool} />);
  const now = () => partOf(shownDocument(store.getState()).layers[0]!, path) as Part;
  return { now, write };
}

const point = (name: string) => screen.getByRole("button", { name: `Point: ${name}` });

describe("points of a step on the picture", () => {
  it("moves the sides of a crop inwards as its numbers grow, and no farther than its frame", () => {
    const { now } = over(CROP);
    fireEvent.keyDown(point("right"), { key: "ArrowLeft", shiftKey: true });
    fireEvent.keyUp(point("right"), { key: "ArrowLeft" });
    expect(now()["right"]).toBe(30);
    fireEvent.keyDown(point("top"), { key: "ArrowUp" });
    fireEvent.keyUp(point("top"), { key: "ArrowUp" });
    expect(now()["top"]).toBe(0);
    expect([now()["left"], now()["bottom"]]).toEqual([10, 0]);
  });

  it("moves a corner on both axes", () => {
    const { now } = over(PIN);
    fireEvent.keyDown(point("top left"), { key: "ArrowDown" });
    fireEvent.keyUp(point("top left"), { key: "ArrowDown" });
    fireEvent.keyDown(point("bottom right"), { key: "ArrowLeft", altKey: true });
    fireEvent.keyUp(point("bottom right"), { key: "ArrowLeft" });
    expect(now()["top_left"]).toEqual([4, 3]);
    expect(now()["bottom_right"]).toEqual([-0.1, 0]);
  });

  it("drags a corner to where the pointer is", () => {
    const { now } = over(PIN);
    const corner = point("top right");
    fireEvent.pointerDown(corner, { button: 0, clientX: 150, clientY: 20, pointerId: 1 });
    fireEvent.pointerMove(corner, { clientX: 140, clientY: 26, pointerId: 1 });
    fireEvent.pointerUp(corner, { clientX: 140, clientY: 26, pointerId: 1 });
    // the corner lies at 150, 20 at rest
    expect(now()["top_right"]).toEqual([-10, 6]);
  });
});

describe("what can be taken hold of", () => {
  it("is what has a form or points", () => {
    expect(formOf({ by: "ellipse", keys: {} })).toBe("ellipse");
    expect(formOf({ by: "matte", keys: {} })).toBeNull();
    expect(formOf({ shape: "free", keys: {} })).toBe("free");
    const { store } = comp("kite");
    const [layer] = store.getState().document.layers;
    const held = { ...layer!, steps: [CROP, { ...ACTS, kind: "blur" }] } as never;
    expect(toolOf(held, { of: "step", index: 0 })?.kind).toBe("points");
    expect(toolOf(held, { of: "step", index: 1 })).toBeNull();
  });
});
