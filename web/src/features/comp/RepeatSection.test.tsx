import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, expect, it } from "vitest";
import { stubLayout } from "../../ui/layout.testing";
import { comp, layerNow, show } from "./desk.testing";
import { RepeatSection, repeatInWords } from "./RepeatSection";

beforeAll(stubLayout);
afterEach(cleanup);

const press = (name: string) =>
  act(() => Promise.resolve(fireEvent.click(screen.getByRole("button", { name }))));
const type = async (label: string, text: string) => {
  const input = screen.getByLabelText<HTMLInputElement>(label);
  fireEvent.focus(input);
  fireEvent.change(input, { target: { value: text } });
  await act(() => Promise.resolve(fireEvent.blur(input)));
};

it("repeats a layer, says how often, and takes it back", async () => {
  const { store, write } = comp("kite");
  const now = () => layerNow(store.getState().document, "layer1");
  show(store, (document) => <RepeatSection store={store} layer={layerNow(document, "layer1")} />);
  expect(repeatInWords(now())).toBe("once");
  await press("Repeat it");
  await type("copies", "40");
  await type("time, chance", "12");
  await act(() => Promise.resolve(fireEvent.click(screen.getByRole("radio", { name: "Larger" }))));
  expect(now().repeat).toMatchObject({ count: 40, chance_time: 12, order: "larger-in-front" });
  expect(repeatInWords(now())).toBe("40 times");
  expect(new Set(write.mock.calls.map((c) => c[2]))).toEqual(new Set(["repeat of kite"]));
  await press("Once again only");
  expect(now().repeat).toBeNull();
});

it("says how many copies there can be", async () => {
  const { store } = comp("kite");
  show(store, (document) => <RepeatSection store={store} layer={layerNow(document, "layer1")} />);
  await press("Repeat it");
  await type("copies", "10000");
  expect(screen.getByRole("alert")).toHaveTextContent("copies goes from 1 to 2000");
  expect(layerNow(store.getState().document, "layer1").repeat?.count).toBe(2);
});
