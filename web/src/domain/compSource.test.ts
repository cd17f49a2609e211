import { expect, it } from "vitest";
import type { ElementOut } from "../api/client";
import { compAsElement, isComp } from "./compSource";
import { stampOf } from "./stampOf";
import { ownFrames } from "./time";

const row = {
  id: 7,
  key: "c7",
  name: "kites",
  revision: 3,
  rate: "50",
  width: 640,
  height: 360,
  first: 11,
  last: 20,
};

it("makes a comp what a layer can show, with its own frames and rate", () => {
  const element = compAsElement(row);
  expect(isComp(element)).toBe(true);
  expect(isComp({ key: "e7" } as ElementOut)).toBe(false);
  expect(element).toMatchObject({ key: "c7", rate: "50", has_alpha: true, facts: { width: 640, first: 11 } });
  const comp = { first: 1, rate: "25" };
  expect(ownFrames(comp, { offset: 0, speed: 1 }, element.facts!, element.rate)).toEqual([1, 5]);
});

it("has another stamp with every change of the comp", () => {
  expect(stampOf(compAsElement(row))).not.toBe(stampOf(compAsElement({ ...row, revision: 4 })));
});
