import { expect, it } from "vitest";
import { element } from "./desk.testing";
import { formatOf } from "./NewComp";

const size = { width: 960, height: 540 };

it.each([
  [
    element({ ...size, first: 101, last: 148 }, "24"),
    { width: "960", height: "540", rate: "24", last: "48" },
  ],
  [element({ ...size, first: 1, last: 12 }, null), { width: "960", height: "540", last: "12" }],
  [element({ ...size, kind: "still", first: 1, last: 1 }, null), { width: "960", height: "540" }],
])("takes what an element says, and leaves what it does not", (given, form) => {
  expect(formatOf(given)).toEqual(form);
});
