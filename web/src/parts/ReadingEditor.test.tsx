import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Reading } from "../domain/comp";
import { ReadingEditor } from "./ReadingEditor";

afterEach(cleanup);

const straight: Reading = {
  alpha: "straight",
  matte: [0, 0, 0],
  inverted: false,
  multiplied: "linear",
};

function editor(
  reading: Partial<Reading>,
  more: { hasAlpha?: boolean; picking?: boolean; encoding?: string } = {},
) {
  const onReading = vi.fn<(reading: Reading) => void>();
  const onPicking = vi.fn<(on: boolean) => void>();
  render(
    <Tooltip.Provider>
      <ReadingEditor
        reading={{ ...straight, ...reading }}
        encoding={more.encoding ?? "srgb"}
        hasAlpha={more.hasAlpha ?? true}
        onReading={onReading}
        onEncoding={vi.fn()}
        picking={more.picking ?? false}
        onPicking={onPicking}
      />
    </Tooltip.Provider>,
  );
  return { onReading, onPicking };
}

const press = (name: string) => fireEvent.click(screen.getByText(name));

describe("how an alpha is read", () => {
  it("changes one thing and leaves the rest as it was", () => {
    const { onReading } = editor({ inverted: true });
    press("Premultiplied");
    expect(onReading).toHaveBeenCalledExactlyOnceWith({
      ...straight,
      inverted: true,
      alpha: "premultiplied",
    });
  });

  it("asks for the matte colour and the moment of multiplying only where there was a multiplication", () => {
    editor({});
    expect(screen.queryByText("In linear light")).not.toBeInTheDocument();
    cleanup();
    editor({ alpha: "premultiplied" });
    expect(screen.getByText("In linear light")).toBeInTheDocument();
  });

  it("knows black, white and any other colour by its name", () => {
    for (const [matte, name] of [
      [[0, 0, 0], "Black"],
      [[1, 1, 1], "White"],
      [[0.12, 0.72, 0.38], "Colour"],
    ] as const) {
      editor({ alpha: "premultiplied", matte: [...matte] });
      expect(screen.getByText(name).closest("button")).toHaveAttribute("data-state", "on");
      cleanup();
    }
  });

  it("offers a colour to be picked from the picture before one is set", () => {
    const { onReading, onPicking } = editor({ alpha: "premultiplied" });
    press("Colour");
    expect(onReading).not.toHaveBeenCalled();
    press("Pick");
    expect(onPicking).toHaveBeenCalledExactlyOnceWith(true);
  });

  it("says what a pick waits for", () => {
    editor({ alpha: "premultiplied", matte: [0.1, 0.2, 0.3] }, { picking: true });
    expect(screen.getByText("Click in the picture")).toBeInTheDocument();
  });

  it("offers no alpha where there is none", () => {
    editor({}, { hasAlpha: false });
    expect(screen.queryByText("Premultiplied")).not.toBeInTheDocument();
    expect(screen.getByText("encoding")).toBeInTheDocument();
  });

  it("shows a transfer and primaries that a file's profile gave", () => {
    editor({}, { encoding: "gamma2.199@oprgb" });
    expect(screen.getByRole("combobox", { name: "Colour encoding" })).toHaveTextContent("Gamma 2.199");
    expect(screen.getByRole("combobox", { name: "Primaries" })).toHaveTextContent("opRGB");
  });
});
