import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { groupLayers, layerOf, type Group } from "../../domain/comp";
import { stubLayout } from "../../ui/layout.testing";
import { comp, show } from "./desk.testing";
import { useDesk } from "./deskState";
import { alphaInWords, GroupSection } from "./GroupSection";

beforeEach(() => useDesk.setState({ layer: null, also: [], opened: [] }));
beforeAll(stubLayout);
afterEach(cleanup);

/** Down the list of what may give the alpha: all members, each of them, a matte. */
async function down(times: number) {
  for (let n = 0; n < times; n += 1)
    await act(() =>
      Promise.resolve(fireEvent.keyDown(screen.getByLabelText("alpha from"), { key: "ArrowDown" })),
    );
}
const press = (name: string) =>
  act(() => Promise.resolve(fireEvent.click(screen.getByRole("button", { name }))));

function group(...names: string[]) {
  const { store, write } = comp(...names);
  const [, id] = groupLayers(
    store.getState().document,
    store.getState().document.layers.map((l) => l.id),
  );
  store.getState().commit(
    (d) =>
      groupLayers(
        d,
        d.layers.map((l) => l.id),
      )[0],
    "group",
  );
  const now = () => layerOf(store.getState().document, id) as Group;
  show(store, (document) => {
    const shown = layerOf(document, id);
    return shown?.kind === "group" && <GroupSection store={store} group={shown} comp={1} />;
  });
  return { store, write, now };
}

describe("a group", () => {
  it("says what merging its members costs, and takes its alpha from one of them", async () => {
    const { now } = group("diffuse", "reflection", "glare");
    expect(screen.getByText(/where all 3 have 0.5, merging them with over gives 0.875/)).toBeVisible();
    await down(2);
    expect(now().alpha).toMatchObject({ by: "member", member: "layer2" });
    expect(alphaInWords(now())).toBe("alpha of reflection");
    expect(screen.getByText(/counts once/)).toBeVisible();
  });

  it("takes its alpha from a matte, which is made there", async () => {
    const { now } = group("diffuse", "reflection");
    await down(3);
    expect(now().alpha.by).toBe("matte");
    expect(screen.getByText(/White keeps, black removes/)).toBeVisible();
  });

  it("is ungrouped in one change, and says what is lost by it", async () => {
    const { store, write, now } = group("diffuse", "reflection");
    expect(screen.queryByText(/are lost/)).toBeNull();
    await down(1);
    expect(screen.getByText(/are lost/)).toBeVisible();
    await press("Ungroup");
    expect(store.getState().document.layers.map((l) => l.name)).toEqual(["diffuse", "reflection"]);
    expect(now()).toBeUndefined();
    expect(write.mock.calls.at(-1)?.[2]).toBe("ungroup group 1");
  });

  it("names a member that is gone instead of another", async () => {
    const { store, now } = group("diffuse", "reflection");
    await down(1);
    store.getState().commit((d) => {
      const g = layerOf(d, now().id) as Group;
      return { ...d, layers: [{ ...g, layers: g.layers.slice(1) }] };
    }, "x");
    expect(alphaInWords(now())).toBe("a member that is gone");
  });
});
