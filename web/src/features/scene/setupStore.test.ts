import { beforeEach, describe, expect, it } from "vitest";
import { firstSetup, missingFor, useSetup } from "./setupStore";

const now = () => useSetup.getState().working!;

describe("the set-up that is worked on", () => {
  beforeEach(() => {
    localStorage.clear();
    useSetup.setState({ working: null });
    useSetup.getState().open(1, "day", firstSetup(2));
  });

  it("is as long as the scene moves", () => {
    expect([now().document.first, now().document.last]).toEqual([1, 50]);
    expect(firstSetup(0).last).toBe(1);
  });

  it("counts a whole drag as one change that is undone at once", () => {
    const { sketch, commit, undo, redo } = useSetup.getState();
    sketch({ noise: 0.01 });
    sketch({ noise: 0.02 });
    expect(now().past).toHaveLength(0);
    commit({ noise: 0.03 });
    expect(now().past).toHaveLength(1);
    undo();
    expect(now().document.noise).toBe(0);
    redo();
    expect(now().document.noise).toBe(0.03);
  });

  it("does not count a change to what it is already", () => {
    useSetup.getState().commit({ samples: 16 });
    expect(now().past).toHaveLength(0);
    expect(now().changed).toBe(false);
  });

  it("comes back from another set-up by undo", () => {
    const { commit, open, undo } = useSetup.getState();
    commit({ samples: 99 });
    open(1, "night", firstSetup(1));
    undo();
    expect(now().document.samples).toBe(99);
  });

  it("is there again after a reload", () => {
    useSetup.getState().commit({ samples: 7 });
    useSetup.setState({ working: null });
    expect(useSetup.getState().recall(1)).toBe(true);
    expect(now().document.samples).toBe(7);
    expect(now().name).toBe("day");
    expect(useSetup.getState().recall(2)).toBe(false);
  });

  it("knows what a pass still needs", () => {
    const setup = now().document;
    expect(missingFor("catcher", setup)).toMatch(/shadow catcher/);
    expect(missingFor("catcher", { ...setup, shadow_catchers: ["shore"] })).toBeNull();
    expect(
      missingFor("sky", {
        ...setup,
        environment: { picture: "e1", strength: 1, rotation: 0, visible: false, keys: {} },
      }),
    ).toMatch(/visible/);
    expect(missingFor(null, setup)).toBeNull();
  });
});
