/**
 * The pointer of a picture, moved by keys: whatever can be clicked, dragged, drawn or painted in the picture
 * can be so without a mouse. It presses what lies under it, as a mouse does.
 */
import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { flushSync } from "react-dom";
import { create } from "zustand";
import type { Size } from "../domain/geometry";
import { stepOf } from "./arrows";
import { BY_KEYS } from "./hold";
import { text } from "./strings";

const t = text.KeyPointer;

/** Milliseconds within which a second press at the same place is a double click. */
const DOUBLE = 400;

interface Pointed {
  /** The picture that it points in, by its `data-viewer`. */
  viewer: string | null;
  asked: number;
}

export const useKeyPointer = create<Pointed>(() => ({ viewer: null, asked: 0 }));

/** Points by keys in a picture, by default the page's first; ends it where it points already. */
export function pointByKeys(picture?: HTMLElement): void {
  const found = picture ?? document.querySelector<HTMLElement>("[data-viewer]");
  const viewer = found?.dataset.viewer ?? null;
  const inIt = !!document.activeElement?.matches("[data-key-pointer]");
  useKeyPointer.setState((s) => ({ viewer: inIt ? null : viewer, asked: s.asked + 1 }));
}

type Point = [number, number];
type Held = Pick<KeyboardEvent, "ctrlKey" | "shiftKey" | "altKey">;
const NOTHING_HELD: Held = { ctrlKey: false, shiftKey: false, altKey: false };

export function KeyPointer({ room }: { room: Size }) {
  const own = useRef<HTMLDivElement>(null);
  const asked = useKeyPointer((s) => s.asked);
  const [at, setAt] = useState<Point>([Math.round(room.width / 2), Math.round(room.height / 2)]);
  const [pressed, setPressed] = useState(false);
  const target = useRef<Element | null>(null);
  const clicked = useRef<{ at: Point; when: number } | null>(null);

  useEffect(() => own.current?.focus(), [asked]);
  useEffect(
    () => () => {
      target.current?.dispatchEvent(new PointerEvent("pointercancel", { bubbles: true, pointerId: BY_KEYS }));
    },
    [],
  );

  const under = ([x, y]: Point): Element | null => {
    const box = own.current!.getBoundingClientRect();
    const found = document.elementFromPoint(box.left + x, box.top + y);
    return found && own.current!.parentElement!.contains(found) ? found : null;
  };
  const send = (type: string, [x, y]: Point, held: Held, to: Element | null) => {
    const box = own.current!.getBoundingClientRect();
    const buttons = type === "pointerup" || !(target.current ?? type === "pointerdown") ? 0 : 1;
    const { ctrlKey, shiftKey, altKey } = held;
    const event = {
      ...{ bubbles: true, cancelable: true, composed: true, ctrlKey, shiftKey, altKey },
      ...{ clientX: box.left + x, clientY: box.top + y, buttons, button: type === "pointermove" ? -1 : 0 },
    };
    const made = type.startsWith("pointer")
      ? new PointerEvent(type, { ...event, pointerId: BY_KEYS, pointerType: "mouse", isPrimary: true })
      : new MouseEvent(type, event);
    // what it pressed has to know of it before it is let go
    flushSync(() => to?.dispatchEvent(made));
  };
  const press = (held: Held) => {
    target.current = under(at);
    setPressed(true);
    send("pointerdown", at, held, target.current);
  };
  const letGo = (held: Held) => {
    const to = target.current;
    send("pointerup", at, held, to);
    target.current = null;
    setPressed(false);
    send("click", at, held, to);
    const { current: before } = clicked;
    const again = before && performance.now() - before.when < DOUBLE && String(before.at) === String(at);
    clicked.current = again ? null : { at, when: performance.now() };
    if (again) send("dblclick", at, held, to);
  };
  const move = ([dx, dy]: Point) => {
    const within = (value: number, size: number) => Math.max(0, Math.min(size - 1, value));
    const to: Point = [within(at[0] + dx, room.width), within(at[1] + dy, room.height)];
    setAt(to);
    send("pointermove", to, NOTHING_HELD, target.current ?? under(to));
  };
  /** Enter presses and lets go, Space one after the other. */
  const button = (both: boolean, held: Held) => {
    const holding = target.current !== null;
    if (!holding) press(held);
    if (both || holding) letGo(held);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = stepOf(event);
    if (by) move(by);
    else if (event.key === "Escape") end(target.current !== null);
    else if (event.key === " " || event.key === "Enter") {
      if (!event.repeat) button(event.key === "Enter", event);
    } else return;
    taken(event);
  };
  /** What is held is let go without effect; the next time the pointer itself goes. */
  const end = (held: boolean) => {
    if (!held) {
      useKeyPointer.setState({ viewer: null });
      own.current?.parentElement?.focus();
      return;
    }
    send("pointercancel", at, NOTHING_HELD, target.current);
    target.current = null;
    setPressed(false);
  };
  return (
    <div
      ref={own}
      data-key-pointer
      role="application"
      aria-label={t.pointer}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="pointer-events-none absolute inset-0 outline-none"
    >
      <svg aria-hidden className="absolute inset-0 h-full w-full">
        <g transform={`translate(${at[0] + 0.5} ${at[1] + 0.5})`} fill="none">
          <path d="M-12 0H-4M4 0H12M0 -12V-4M0 4V12" stroke="black" strokeOpacity={0.6} strokeWidth={3} />
          <path d="M-12 0H-4M4 0H12M0 -12V-4M0 4V12" stroke="white" strokeWidth={1.5} />
          {pressed && <circle r={7} stroke="var(--accent)" strokeWidth={2} />}
        </g>
      </svg>
      <p className="absolute bottom-2 left-2 rounded bg-black/70 px-1.5 py-0.5 text-white">
        {pressed ? t.held : t.keys}
      </p>
    </div>
  );
}

const taken = (event: KeyboardEvent) => {
  event.preventDefault();
  event.stopPropagation();
};
