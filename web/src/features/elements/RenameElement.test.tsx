import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { afterEach, expect, it, vi } from "vitest";
import { ApiProblem, type ElementOut } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { stubLayout } from "../../ui/layout.testing";
import { RenameElement } from "./RenameElement";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

it("takes another name, and says where it stands why one is refused", async () => {
  stubLayout();
  const why = {
    code: "value-refused",
    message: "A name has 1 to 300 characters.",
    advice: "",
    where: "name",
  };
  const call = vi
    .spyOn(elementCalls, "rename")
    .mockRejectedValueOnce(new ApiProblem(422, why))
    .mockResolvedValueOnce({} as never);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Tooltip.Provider>
        <RenameElement element={{ id: 3, name: "kite.####.png" } as ElementOut} project={1} />
      </Tooltip.Provider>
    </QueryClientProvider>,
  );
  fireEvent.click(screen.getByRole("button", { name: "Rename" }));
  const field = screen.getByLabelText(/New name/);
  expect(field).toHaveValue("kite.####.png");
  fireEvent.change(field, { target: { value: "" } });
  await act(() => Promise.resolve(fireEvent.click(screen.getByRole("button", { name: "Rename it" }))));
  expect(await screen.findByText("A name has 1 to 300 characters.")).toBeVisible();
  fireEvent.change(field, { target: { value: "kite, red" } });
  fireEvent.click(screen.getByRole("button", { name: "Rename it" }));
  await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  expect(call).toHaveBeenLastCalledWith(3, "kite, red");
});
