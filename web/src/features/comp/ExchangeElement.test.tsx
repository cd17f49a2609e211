import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, expect, it } from "vitest";
import type { ElementOut } from "../../api/client";
import { changeLayer, type ElementLayer } from "../../domain/comp";
import { stubLayout } from "../../ui/layout.testing";
import { comp, element, layerNow, show } from "./desk.testing";
import { ExchangeElement } from "./ExchangeElement";

beforeAll(stubLayout);
afterEach(cleanup);

const facts = {
  kind: "sequence",
  first: 1,
  last: 12,
  width: 64,
  height: 48,
  alpha: true,
  rate: null,
  missing: [],
};
const KITE = { ...element(facts), state: "ready" } as ElementOut;
const SMALL = { ...KITE, key: "e2", name: "small kite", facts: { ...facts, width: 32, last: 6 } } as never;

function exchanged(rows: ElementOut[]) {
  const { store } = comp("kite");
  const id = store.getState().document.layers[0]!.id;
  store.getState().commit((d) => changeLayer(d, id, { opacity: 0.5, name: "hero" }), "begin");
  show(store, (document) => (
    <ExchangeElement store={store} layer={layerNow(document, id) as ElementLayer} elements={rows} />
  ));
  return { store, now: () => layerNow(store.getState().document, id) as ElementLayer };
}

it("shows another element with everything else kept, and says how it differs", async () => {
  const { store, now } = exchanged([KITE, SMALL]);
  const before = now();
  fireEvent.keyDown(screen.getByRole("button", { name: "Shows kite: exchange it" }), { key: "Enter" });
  fireEvent.click(await screen.findByRole("menuitem", { name: /small kite/ }));
  expect(now()).toEqual({ ...before, element: "e2" });
  expect(screen.getByRole("status")).toHaveTextContent(
    "It has 32 × 48 pixels instead of 64 × 48, 6 frames instead of 12. Everything else of the layer is kept.",
  );
  expect(screen.getByRole("button", { name: "Shows small kite: exchange it" })).toBeVisible();
  expect(store.getState().document.layers).toHaveLength(1);
});

it("names an element that is gone, and takes another for it", async () => {
  const { now } = exchanged([SMALL]);
  fireEvent.keyDown(screen.getByRole("button", { name: /not in the project any more/ }), { key: "Enter" });
  fireEvent.click(await screen.findByRole("menuitem", { name: /small kite/ }));
  expect(now().element).toBe("e2");
  expect(screen.queryByRole("status")).toBeNull();
});
