import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, beforeEach, expect, it, vi } from "vitest";
import { client } from "../../api/client";
import { compCalls } from "../../api/comps";
import type { Card } from "../../domain/comp";
import { stubLayout } from "../../ui/layout.testing";
import { comp, layerNow, show, type } from "./desk.testing";
import { useDesk } from "./deskState";
import { SceneSection, sceneInWords } from "./SceneSection";
import { standLayer } from "./standing";

beforeAll(stubLayout);
beforeEach(() => useDesk.setState({ frame: 7, tool: null }));
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const CARD: Card = {
  camera: "v3",
  x: 1,
  y: 2,
  z: -3,
  anchor: "centre",
  width: 2,
  faces: "camera",
  turn: 0,
  tilt: 0,
  roll: 0,
  offset: 0,
  keys: {},
};

const press = (name: string) =>
  act(() => Promise.resolve(fireEvent.click(screen.getByRole("button", { name }))));

function section() {
  const { store, write } = comp("caption");
  show(store, (document) => (
    <SceneSection store={store} layer={layerNow(document, "layer1")} comp={1} project={1} />
  ));
  return { store, write, now: () => layerNow(store.getState().document, "layer1") };
}

const standing = async (store: ReturnType<typeof section>["store"]) => {
  vi.spyOn(compCalls, "stand").mockResolvedValue(CARD);
  await act(() => standLayer(store, 1, "layer1", { camera: "v3" }));
};

it("says what is missing where no render has a camera", () => {
  vi.spyOn(client, "GET").mockResolvedValue({ data: [] });
  section();
  expect(screen.getByText(/Render a scene of this project first/)).toBeVisible();
});

it("stands the layer where the server says, its transform at rest, and lays it flat again", async () => {
  const { store, now } = section();
  act(() => store.getState().commit((d) => ({ ...d, camera: "v3" }), "camera"));
  expect(sceneInWords(now(), 7)).toBe("flat");
  await standing(store);
  expect(compCalls.stand).toHaveBeenCalledWith(
    1,
    expect.objectContaining({ frame: 7, layer: "layer1", camera: "v3" }),
  );
  expect(now().card).toEqual({ ...CARD, camera: "" });
  expect(sceneInWords(now(), 7)).toBe("at 1, 2, -3");
  await type("turn", "35");
  expect(now().card?.turn).toBe(35);
  await press("Put it where I click");
  expect(useDesk.getState().tool).toMatchObject({ kind: "stand", owner: { layer: "layer1" } });
  await press("Lay it flat");
  expect(now().card).toBeNull();
});

it("sets a key where its place has a curve", async () => {
  const { store, now } = section();
  await standing(store);
  await press("Let x change: set a first key at this frame");
  vi.mocked(compCalls.stand).mockResolvedValue({ ...CARD, x: 5 });
  useDesk.setState({ frame: 9 });
  await act(() => standLayer(store, 1, "layer1", { point: [3, 4] }));
  const { keys } = now().card!.keys.x!;
  expect(keys.map((k) => [k.frame, k.value])).toEqual([
    [7, 1],
    [9, 5],
  ]);
});
