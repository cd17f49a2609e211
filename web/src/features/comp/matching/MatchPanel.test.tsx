import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, beforeEach, expect, it, vi } from "vitest";
import { compCalls } from "../../../api/comps";
import { stubLayout } from "../../../ui/layout.testing";
import { comp, layerNow, show } from "../desk.testing";
import { useDesk } from "../deskState";
import { MatchButton, MatchPanel } from "./MatchPanel";

beforeAll(stubLayout);
beforeEach(() => useDesk.setState({ frame: 4, matching: null, tool: null }));
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

function panel(...names: string[]) {
  const { store } = comp(...names);
  const id = `layer${names.length}`;
  show(store, (document) => (
    <>
      <MatchButton store={store} id={id} />
      <MatchPanel store={store} comp={1} layer={layerNow(document, id)} />
    </>
  ));
  return store;
}

const press = (name: string) =>
  act(() => Promise.resolve(fireEvent.click(screen.getByRole("button", { name }))));
const marks = (own: boolean, there: boolean) =>
  act(() => {
    const { matching } = useDesk.getState();
    const box = [0, 0, 20, 20] as [number, number, number, number];
    useDesk.setState({ matching: { ...matching!, own: own ? box : null, there: there ? box : null } });
  });

it("asks for a piece of the layer, then for one of the farthest layer, then puts the step on", async () => {
  const match = vi.spyOn(compCalls, "match").mockResolvedValue({ kind: "tone", on: true, keys: {} } as never);
  const store = panel("plate", "kite");
  await press("Match …");
  expect(useDesk.getState().tool).toMatchObject({ kind: "match", what: "own" });
  expect(screen.getByText(/Drag over a piece of the layer/)).toBeVisible();
  marks(true, false);
  expect(screen.getByText(/Drag over the piece of the plate/)).toBeVisible();
  expect(screen.getByRole("button", { name: "Match tone" })).toBeDisabled();
  marks(true, true);
  await press("Match tone");
  expect(match.mock.calls[0]![1]).toMatchObject({ frame: 4, layer: "layer2", plate: "layer1", what: "tone" });
  expect(layerNow(store.getState().document, "layer2").steps.map((s) => s.kind)).toEqual(["tone"]);
});

it("says what is wrong, and puts nothing on", async () => {
  vi.spyOn(compCalls, "match").mockRejectedValue(new Error("too small to tell grain"));
  const store = panel("plate", "kite");
  await press("Match …");
  marks(true, true);
  await press("Match grain");
  expect(screen.getByRole("alert")).toHaveTextContent("too small to tell grain");
  expect(layerNow(store.getState().document, "layer2").steps).toEqual([]);
  await press("End matching");
  expect(useDesk.getState()).toMatchObject({ matching: null, tool: null });
});

it("has nothing to offer where there is no other layer", () => {
  panel("plate");
  expect(screen.queryByRole("button", { name: "Match …" })).toBeNull();
});
