import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { afterEach, beforeAll, beforeEach, expect, it } from "vitest";
import { stubLayout } from "../../ui/layout.testing";
import type { Placed } from "./cameraEdits";
import { toggledKey } from "../../domain/parts";
import { orbitAt } from "./cameraEdits";
import { Lamps } from "./Lamps";
import { OrbitOver } from "./OrbitOver";
import { firstSetup, useSetup } from "./setupStore";

const camera: Placed = {
  azimuth: 10,
  elevation: 0,
  roll: 0,
  distance: 2,
  angle: 90,
  target_x: 0,
  target_y: 0,
  target_z: 0,
  keys: {},
};

beforeAll(() => {
  stubLayout();
  HTMLElement.prototype.setPointerCapture = () => undefined;
});
beforeEach(() => useSetup.getState().open(1, "", { ...firstSetup(1), placed_camera: camera }));
afterEach(cleanup);

const placed = () => useSetup.getState().working!.document.placed_camera!;
const entries = () => useSetup.getState().working!.past.length;

function over(frame = 1) {
  function Shown() {
    const now = useSetup((s) => s.working!.document.placed_camera!);
    return <OrbitOver camera={now} frame={frame} height={400} />;
  }
  render(<Shown />);
  return screen.getByRole("application");
}

function drag(node: HTMLElement, to: { clientX: number; clientY: number; shiftKey?: boolean }) {
  const before = entries();
  fireEvent.pointerDown(node, { clientX: 0, clientY: 0, button: 0 });
  fireEvent.pointerMove(node, { clientX: to.clientX / 2, clientY: to.clientY / 2 });
  expect(entries()).toBe(before);
  fireEvent.pointerMove(node, to);
  fireEvent.pointerUp(node, to);
  expect(entries()).toBe(before + 1);
}

it("goes around the target while it is dragged, and is one entry of undo", () => {
  drag(over(), { clientX: 100, clientY: 20 });
  expect(orbitAt(placed(), 1)).toMatchObject({ azimuth: -25, elevation: 7 });
  act(() => useSetup.getState().undo());
  expect(placed()).toEqual(camera);
});

it("moves aside with Shift, and nearer by the wheel", async () => {
  const node = over();
  drag(node, { clientX: 0, clientY: 100, shiftKey: true });
  expect(placed().target_y).toBeCloseTo(1);
  fireEvent.wheel(node, { deltaY: -500 });
  expect(placed().distance).toBeLessThan(2);
  const before = entries();
  await act(() => new Promise((done) => window.setTimeout(done, 350)));
  expect(entries()).toBe(before + 1);
});

it("sets a key at the frame where a number has a curve", () => {
  act(() =>
    useSetup.getState().commit({ placed_camera: { ...camera, ...toggledKey(camera, "azimuth", 1) } }),
  );
  fireEvent.keyDown(over(9), { key: "ArrowLeft" });
  expect(placed().keys["azimuth"]!.keys.map((k) => [k.frame, k.value])).toEqual([
    [1, 10],
    [9, 14.2],
  ]);
  expect(placed().azimuth).toBe(10);
});

it("adds lamps with names of their own and takes them out", () => {
  function Shown() {
    const setup = useSetup((s) => s.working!.document);
    return (
      <Tooltip.Provider>
        <Lamps setup={setup} frame={5} />
      </Tooltip.Provider>
    );
  }
  render(<Shown />);
  const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
  press("Add a lamp");
  press("Add a lamp");
  press("Take out lamp 1");
  press("Add a lamp");
  const lamps = () => useSetup.getState().working!.document.lamps;
  expect(lamps().map((l) => l.name)).toEqual(["lamp 2", "lamp 3"]);
  const [first] = screen.getAllByRole("button", {
    name: "Let azimuth change: set a first key at this frame",
  });
  fireEvent.click(first!);
  expect(lamps()[0]!.keys.azimuth!.keys).toMatchObject([{ frame: 5, value: -40 }]);
  expect(lamps()[1]!.keys).toEqual({});
});
