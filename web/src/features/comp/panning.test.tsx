import { act, cleanup } from "@testing-library/react";
import { Profiler } from "react";
import { afterEach, beforeAll, beforeEach, expect, it } from "vitest";
import { stubLayout } from "../../ui/layout.testing";
import { comp, show } from "./desk.testing";
import { useDesk } from "./deskState";
import { Foot } from "./Foot";
import { Lineup } from "./Lineup";
import { Recipe } from "./Recipe";
import { TimeBar } from "./TimeBar";
import { ViewBar } from "./ViewBar";

beforeAll(stubLayout);
beforeEach(() => useDesk.setState({ frame: 1, layer: null, view: null, playing: false }));
afterEach(cleanup);

/** What is rendered again, by name, while something is done. */
function rendered(name: string, seen: string[]) {
  return (part: React.ReactNode) => (
    <Profiler id={name} onRender={(_, phase) => phase === "update" && seen.push(name)}>
      {part}
    </Profiler>
  );
}

it("draws nothing of the desk again but the picture while somebody pans", () => {
  const { store } = comp("plate", "kite");
  const seen: string[] = [];
  useDesk.setState({ layer: store.getState().document.layers[1]!.id });
  show(store, (document) => (
    <>
      {rendered("views", seen)(<ViewBar element="e1" hasSteps={false} />)}
      {rendered("time", seen)(<TimeBar document={document} />)}
      {rendered("lineup", seen)(<Lineup store={store} elements={[]} />)}
      {rendered("recipe", seen)(<Recipe store={store} elements={[]} project={1} comp={1} />)}
    </>
  ));
  seen.length = 0;
  for (let x = 0; x < 5; x += 1) act(() => useDesk.setState({ view: { zoom: 2, x, y: 0 } }));
  expect(seen).toEqual([]);
  // the check can fail: a frame does draw the time again
  act(() => useDesk.setState({ frame: 2 }));
  expect(seen).toContain("time");
});

it("shows the zoom where it stands", () => {
  const { store } = comp("plate");
  const seen: string[] = [];
  show(store, () => rendered("foot", seen)(<Foot store={store} />));
  act(() => useDesk.setState({ view: { zoom: 3, x: 0, y: 0 } }));
  expect(seen).toContain("foot");
});
