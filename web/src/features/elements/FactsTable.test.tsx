import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { ElementOut, Facts } from "../../api/client";
import { FactsTable, glanceRows, RateField } from "./FactsTable";

afterEach(cleanup);

const facts = (more: Partial<Facts> = {}): Facts =>
  ({
    kind: "sequence",
    format: "PNG",
    codec: "",
    width: 1920,
    height: 1080,
    first: 1001,
    last: 1048,
    count: 46,
    missing: [1003, 1004],
    odd_sizes: {},
    rate: null,
    pixel_format: "RGBA",
    bit_depth: 16,
    alpha: true,
    alpha_use: "used",
    alpha_claim: "",
    alpha_claim_by: "",
    encoding: "srgb",
    encoding_by: "format",
    bytes: 3_500_000,
    data_window: null,
    notes: [],
    limits: [],
    channels: [],
    ...more,
  }) as Facts;

const element = (more: Partial<ElementOut> = {}) =>
  ({ key: "e1", name: "kite", rate: "25", parts: [], ...more }) as unknown as ElementOut;
const row = (rows: [string, string][], name: string) => rows.find(([n]) => n === name)?.[1];

describe("the facts of a file at a glance", () => {
  it("count the frames that are there and say between which", () => {
    const rows = glanceRows(facts(), "24000/1001");
    expect(row(rows, "size")).toBe("1920 × 1080");
    expect(row(rows, "frames")).toBe("46 (1001 to 1048)");
    expect(row(rows, "rate")).toBe("24000/1001 (23.976) fps");
    expect(row(rows, "samples")).toBe("RGBA, 16 bits");
  });

  it("ask for a rate rather than assume one, and ask no still for any", () => {
    expect(row(glanceRows(facts(), null), "rate")).toBe("not given: set it below");
    const still = glanceRows(facts({ kind: "still" }), null);
    expect(row(still, "frames")).toBe("one still");
    expect(row(still, "rate")).toBeUndefined();
  });

  it("tell what the file itself says of its alpha, and by what", () => {
    expect(row(glanceRows(facts(), "25"), "file claims")).toBe("nothing");
    expect(row(glanceRows(facts({ alpha: false, alpha_use: "none" }), "25"), "file claims")).toBe("no alpha");
    const claimed = facts({ alpha_claim: "premultiplied", alpha_claim_by: "OpenEXR" });
    expect(row(glanceRows(claimed, "25"), "file claims")).toBe("premultiplied (OpenEXR)");
    expect(row(glanceRows(facts({ alpha_use: "opaque" }), "25"), "alpha")).toBe("there, opaque everywhere");
  });
});

describe("all facts of a file", () => {
  it("are unfolded: channels with their ranges, odd sizes, limits", () => {
    const all = facts({
      notes: ["Frames 1003 and 1004 are missing."],
      limits: ["Regions of a frame are read whole."],
      odd_sizes: { "1010": [1280, 720] },
      channels: [
        { name: "R", sample: "half", data: false, low: 0, high: 1 },
        { name: "depth.Z", sample: "float", data: true, low: -2, high: 8 },
      ] as never,
    });
    render(<FactsTable element={element({ folder: "shots/a very long name of a folder" })} facts={all} />);
    expect(screen.getByText("Frames 1003 and 1004 are missing.")).toBeVisible();
    expect(screen.queryByRole("table", { name: "Channels" })).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "All facts" }));
    const channels = within(screen.getByRole("table", { name: "Channels" }));
    expect(channels.getByText("float, data")).toBeVisible();
    expect(screen.getByText("frames 1010")).toBeVisible();
    expect(screen.getByText("shots/a very long name of a folder")).toBeVisible();
    expect(screen.getByText("Regions of a frame are read whole.")).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: "Fewer facts" }));
    expect(screen.queryByRole("table", { name: "Channels" })).toBeNull();
  });
});

describe("a rate", () => {
  it("that no file gives is proposed from the project's comps, and taken with one click", () => {
    const onRate = vi.fn();
    render(
      <RateField rate={null} onRate={onRate} proposed={[{ rate: "30000/1001", comp: "Boardwalk, dusk" }]} />,
    );
    expect(screen.getByText("Its files give no rate. Which one was meant?")).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: /as Boardwalk, dusk$/ }));
    expect(onRate).toHaveBeenCalledExactlyOnceWith("30000/1001");
  });

  it("is typed and set; the same again is nothing to set", () => {
    const onRate = vi.fn();
    render(<RateField rate="25" onRate={onRate} />);
    const field = screen.getByLabelText("rate is");
    expect(screen.getByRole("button", { name: "Set" })).toBeDisabled();
    fireEvent.change(field, { target: { value: " 23.976 " } });
    fireEvent.submit(field);
    expect(onRate).toHaveBeenCalledExactlyOnceWith("23.976");
    fireEvent.change(field, { target: { value: "  " } });
    fireEvent.submit(field);
    expect(onRate).toHaveBeenCalledOnce();
  });
});
