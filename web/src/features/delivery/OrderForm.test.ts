import { describe, expect, it } from "vitest";
import { freePlace } from "./OrderForm";

describe("the folder that is proposed", () => {
  it("is the next version of the comp's own", () => {
    expect(freePlace("dusk", [])).toBe("dusk/v1");
    expect(freePlace("dusk", ["dusk/v1", "dawn/v7", "dusk/v3", "dusk/vfx", "elsewhere"])).toBe("dusk/v4");
  });
});
