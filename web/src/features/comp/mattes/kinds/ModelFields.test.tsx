import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { afterEach, expect, it } from "vitest";
import { addPart, matteOf, withMatte, withPart } from "../../../../domain/mattes";
import { comp, layerNow } from "../../desk.testing";
import { ModelFields, newPart, type PartTable } from "./ModelFields";

afterEach(cleanup);

const SQUARES: PartTable = {
  kind: "squares",
  title: "Squares",
  fields: {
    kind: { const: "squares", default: "squares" },
    combine: { enum: ["add"], default: "add" },
    keys: { type: "object", default: {} },
    size: { type: "number", title: "size", minimum: 1, maximum: 100, default: 8, unit: "px" },
    turned: { type: "boolean", title: "turned", default: false },
    colour: {
      enum: ["light", "dark"],
      labels: { light: "Light", dark: "Dark" },
      title: "begins",
      default: "light",
    },
  },
};

it("gives a kind that the page does not know its controls", async () => {
  const owner = { layer: "layer1", step: null };
  const { store } = comp("kite");
  const own = newPart(SQUARES);
  act(() => store.getState().commit((d) => withMatte(d, owner, (m) => addPart(m, own)), "set up"));
  const part = () => matteOf(store.getState().document, owner).parts[0] as unknown as Record<string, unknown>;
  expect(part()).toMatchObject({ kind: "squares", combine: "add", size: 8, turned: false, colour: "light" });
  const client = new QueryClient({ defaultOptions: { queries: { enabled: false } } });
  client.setQueryData(["tables"], { parts: [SQUARES] });
  render(
    <QueryClientProvider client={client}>
      <Tooltip.Provider>
        <ModelFields
          {...{ store, owner, index: 0, called: "kite", sources: [] }}
          layer={layerNow(store.getState().document, "layer1")}
          part={own}
          set={(change, what) =>
            store.getState().commit((d) => withMatte(d, owner, (m) => withPart(m, 0, change)), what)
          }
        />
      </Tooltip.Provider>
    </QueryClientProvider>,
  );
  expect(screen.queryByText("add")).toBeNull();
  fireEvent.click(screen.getByLabelText("turned"));
  const size = screen.getByLabelText("size");
  fireEvent.focus(size);
  fireEvent.change(size, { target: { value: "12" } });
  await act(() => Promise.resolve(fireEvent.blur(size)));
  expect(part()).toMatchObject({ size: 12, turned: true });
  expect(screen.getByRole("combobox", { name: "begins" })).toHaveTextContent("Light");
});
