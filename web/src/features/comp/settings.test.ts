import { describe, expect, it } from "vitest";
import { parsedSettings } from "./settings";

const form = {
  name: " dusk ",
  width: "1920",
  height: "1080",
  rate: "24000/1001",
  first: "-3",
  last: "48",
  working: "linear",
};

describe("a comp's settings", () => {
  it("are taken as they are typed, without the spaces", () => {
    expect(parsedSettings(form)).toEqual({
      name: "dusk",
      width: 1920,
      height: 1080,
      rate: "24000/1001",
      first: -3,
      last: 48,
      working: "linear",
    });
  });

  it.each([
    ["name", " "],
    ["width", "0"],
    ["height", "16385"],
    ["width", "12.5"],
    ["last", "-4"],
    ["first", "two"],
    ["rate", "fast"],
    ["rate", "0"],
  ])("tell what is wrong with %s %j", (key, value) => {
    expect(parsedSettings({ ...form, [key]: value })).toHaveProperty("problem");
  });
});
