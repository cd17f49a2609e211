import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, expect, it } from "vitest";
import { stubLayout } from "../../ui/layout.testing";
import { CompColumn } from "./CompColumn";
import { comp, element, show } from "./desk.testing";
import { useDesk } from "./deskState";

beforeAll(stubLayout);
afterEach(() => {
  cleanup();
  useDesk.setState({ settings: false, layer: null });
});

function column(missing: number[]) {
  const { store } = comp("plate");
  const document = { ...store.getState().document, name: "Boardwalk", rate: "24", first: 11, last: 34 };
  show(store, () => (
    <CompColumn store={store} document={document} elements={[element({ missing })]} project={1} comp={1} />
  ));
}

it("says what the comp is, and opens its settings", () => {
  column([]);
  expect(screen.getByText("11 to 34, 24 in all")).toBeVisible();
  expect(screen.getByText("1 s")).toBeVisible();
  expect(screen.queryByText("To be looked at")).toBeNull();
  fireEvent.click(screen.getByRole("button", { name: "Change …" }));
  expect(useDesk.getState().settings).toBe(true);
});

it("names layers whose frames are missing, and chooses them", () => {
  column([12, 13]);
  expect(screen.getByText("2 frames missing")).toBeVisible();
  fireEvent.click(screen.getByRole("button", { name: "plate" }));
  expect(useDesk.getState().layer).not.toBeNull();
});
