import { afterEach, describe, expect, it } from "vitest";
import { paced, setPace } from "./draftPace";

describe("drafts", () => {
  afterEach(() => setPace(1));

  it("are as fine as wanted while they come in time", () => {
    setPace(30);
    expect(paced({ level: 1, region: null })).toEqual({ level: 1, region: null });
  });

  it("cover the same at half the size once two in a row come late, until they come quickly", () => {
    setPace(80);
    expect(paced({ level: 1, region: null })).toEqual({ level: 1, region: null });
    setPace(80);
    expect(paced({ level: 0, region: [64, 65, 129, 190] })).toEqual({ level: 1, region: [32, 32, 65, 95] });
    setPace(30);
    expect(paced({ level: 1, region: null })).toEqual({ level: 2, region: null });
    setPace(10);
    expect(paced({ level: 1, region: null })).toEqual({ level: 1, region: null });
  });
});
