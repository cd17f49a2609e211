import { describe, expect, it } from "vitest";
import { freeFolder } from "./OrderForm";

describe("the folder that is proposed", () => {
  it("is the next version of the comp's own", () => {
    expect(freeFolder("dusk", [])).toBe("dusk/v1");
    expect(freeFolder("dusk", ["dusk/v1", "dawn/v7", "dusk/v3", "dusk/vfx", "elsewhere"])).toBe("dusk/v4");
  });
});
