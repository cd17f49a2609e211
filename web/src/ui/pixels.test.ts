import { describe, expect, it } from "vitest";
import { boxOfMark, lineOfMark, markOf } from "./marks";
import { seenPixels } from "./pixels";

const frame = { width: 100, height: 80 };

describe("single pixels", () => {
  it("finds those that are seen, within the frame", () => {
    const room = { width: 200, height: 100 };
    expect(seenPixels({ zoom: 10, x: 50, y: 40 }, room, frame)).toEqual([40, 35, 60, 45]);
    expect(seenPixels({ zoom: 10, x: 2, y: 79 }, room, frame)).toEqual([0, 74, 12, 80]);
  });
});

describe("what is drawn on a picture", () => {
  it("stays within the frame", () => {
    const mark = markOf("line", [-5, 10], [500, 70.5], frame);
    expect(lineOfMark(mark)).toEqual([0, 10, 100, 70.5]);
    expect(boxOfMark(mark)).toBeNull();
  });

  it("measures whole pixels, one at least, whichever way it was drawn", () => {
    expect(boxOfMark(markOf("box", [20.7, 30.2], [10.2, 12.9], frame))).toEqual([10, 12, 21, 31]);
    expect(boxOfMark(markOf("box", [5, 5], [5, 5], frame))).toEqual([5, 5, 6, 6]);
  });
});
