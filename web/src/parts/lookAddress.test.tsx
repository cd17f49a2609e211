import { act, render, screen } from "@testing-library/react";
import { MemoryRouter, useLocation } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { FIRST_LOOK } from "./LookBar";
import { lookFromParams, lookToParams, useLookOfAddress } from "./lookAddress";

function Desk() {
  const [look, setLook] = useLookOfAddress();
  return (
    <>
      <button onClick={() => setLook({ ...look, channel: "alpha", exposure: 2 })}>{look.channel}</button>
      <output>{useLocation().search}</output>
    </>
  );
}

describe("the look in the address", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it("holds what differs from the first look, and gives it back", () => {
    expect(lookToParams(FIRST_LOOK)).toEqual({});
    const look = {
      ...FIRST_LOOK,
      channel: "alpha",
      background: "colour",
      colour: [1, 0, 0.2],
      exposure: -1.5,
      gamma: 2.2,
    } as typeof FIRST_LOOK;
    expect(lookFromParams(new URLSearchParams(lookToParams(look)))).toEqual(look);
    const wrong = new URLSearchParams("show=purple&over=moon&exposure=99&gamma=x&colour=zz");
    expect(lookFromParams(wrong)).toEqual(FIRST_LOOK);
  });

  it("is written a moment after it rests, beside what else stands there", () => {
    render(
      <MemoryRouter initialEntries={["/?element=3&show=band"]}>
        <Desk />
      </MemoryRouter>,
    );
    const button = screen.getByRole("button");
    expect(button).toHaveTextContent("band");
    act(() => button.click());
    expect(screen.getByRole("status")).toHaveTextContent("?element=3&show=band");
    act(() => void vi.advanceTimersByTime(300));
    expect(screen.getByRole("status")).toHaveTextContent("?element=3&show=alpha&exposure=2");
  });
});
