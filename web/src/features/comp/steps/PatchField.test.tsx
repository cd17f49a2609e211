import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, describe, expect, it } from "vitest";
import { changeLayer, type CompDocument } from "../../../domain/comp";
import { stubLayout } from "../../../ui/layout.testing";
import { comp, show } from "../desk.testing";
import { PatchField } from "./PatchField";
import type { StepFieldProps } from "./fieldProps";
import type { Routes } from "./patchWords";

beforeAll(stubLayout);
afterEach(cleanup);

const PATCH = { kind: "patch", on: true, outputs: "rgb", second: "", weights: "bt709" };

function patch(routes: object, second = "") {
  const { store } = comp("plate", "kite");
  const id = store.getState().document.layers[1]!.id;
  store.setState({
    document: changeLayer(store.getState().document, id, { steps: [{ ...PATCH, routes, second } as never] }),
  });
  const props = (document: CompDocument): StepFieldProps => {
    const layer = document.layers[1]!;
    return { store, layer, index: 0, step: layer.steps[0]!, name: "routes", elements: [] } as never;
  };
  show(store, (document) => <PatchField {...props(document)} />);
  const now = () => Reflect.get(store.getState().document.layers[1]!.steps[0]!, "routes") as Routes;
  return { now };
}

const list = (output: string) => screen.getByRole("combobox", { name: new RegExp(`^${output} from`) });

describe("the patch", () => {
  it("shows in the list what the board shows, for every side", () => {
    patch({ R: { source: "second", channel: "B", inverted: false, gain: 1, offset: 0 } }, "layer:plate");
    fireEvent.click(screen.getByRole("button", { name: "red" }));
    expect(list("red")).toHaveTextContent("B");
    fireEvent.click(screen.getByRole("button", { name: "green" }));
    expect(list("green")).toHaveTextContent("G");
  });

  it("shows constants", () => {
    patch({ A: { source: "constant", channel: "1", inverted: false, gain: 1, offset: 0 } });
    expect(list("alpha")).toHaveTextContent("1");
  });

  it("writes a side that the document knows", () => {
    const { now } = patch({});
    fireEvent.click(screen.getByRole("button", { name: "red from B of this layer" }));
    expect(now().R).toMatchObject({ source: "own", channel: "B" });
    expect(list("red")).toHaveTextContent("B");
  });
});
