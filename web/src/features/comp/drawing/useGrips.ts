/** Something of a part that is dragged in the picture, or moved by arrow keys: seen at once, kept when it is let go. */
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { layerOf } from "../../../domain/comp";
import { intoLayer } from "../../../domain/geometry";
import { changePart, partOf, type Part, type PartPath } from "../../../domain/parts";
import type { Ground } from "./ground";
import { stepOf } from "../../../ui/arrows";
import { hold } from "../../../ui/hold";

export interface Grips<Grip> {
  /** Where a pointer is, in the layer's pixels from its centre. */
  at: (event: PointerEvent) => [number, number];
  edit: (change: (now: Part) => Partial<Part>, done: boolean, what: string) => void;
  begin: (event: PointerEvent, grip: Grip) => void;
  move: (event: PointerEvent) => void;
  end: (event: PointerEvent) => void;
  nudge: (event: KeyboardEvent, grip: Grip, from: [number, number]) => void;
  letGo: () => void;
}

/**
 * ``moved``: what the part becomes when a grip is brought to a place; ``called``: an entry of undo for what was
 * moved; ``words``: of a grip.
 */
export function useGrips<Grip>(
  ground: Ground,
  path: PartPath,
  moved: (now: Part, grip: Grip, at: [number, number]) => Partial<Part>,
  words: (grip: Grip) => string,
  called: (what: string) => string,
): Grips<Grip> {
  const held = useRef<Grip | null>(null);
  /** What arrow keys move, and where they have brought it by now; accepted when the key is let go. */
  const nudged = useRef<{ grip: Grip; at: [number, number] } | null>(null);
  const { store, layer } = ground;

  const edit = (change: (now: Part) => Partial<Part>, done: boolean, what: string) => {
    const apply = (d: Parameters<typeof changePart>[0]) => {
      const now = layerOf(d, layer.id);
      const target = now && partOf(now, path);
      return target ? changePart(d, layer.id, path, change(target)) : d;
    };
    if (done) store.getState().commit(apply, called(what));
    else store.getState().sketch(apply);
  };
  const at = (event: PointerEvent): [number, number] => {
    const box = event.currentTarget.closest("[data-tool]")!.getBoundingClientRect();
    const comp = ground.toComp(event.clientX - box.left, event.clientY - box.top);
    return intoLayer(ground.transform, ground.frame, comp);
  };
  const drag = (event: PointerEvent, done: boolean) => {
    const grip = held.current;
    if (grip !== null) edit((now) => moved(now, grip, at(event)), done, words(grip));
  };
  return {
    at,
    edit,
    begin: (event, grip) => {
      event.stopPropagation();
      if (event.button !== 0) return;
      hold(event.currentTarget.closest("[data-tool]")!, event.pointerId);
      held.current = grip;
    },
    move: (event) => drag(event, false),
    end: (event) => {
      drag(event, true);
      held.current = null;
    },
    nudge: (event, grip, from) => {
      const by = stepOf(event);
      if (!by) return;
      event.preventDefault();
      event.stopPropagation();
      const [x, y] = nudged.current?.at ?? from;
      nudged.current = { grip: nudged.current?.grip ?? grip, at: [x + by[0], y + by[1]] };
      const { grip: moving, at: to } = nudged.current;
      edit((now) => moved(now, moving, to), false, words(moving));
    },
    letGo: () => {
      const done = nudged.current;
      if (!done) return;
      nudged.current = null;
      edit((now) => moved(now, done.grip, done.at), true, words(done.grip));
    },
  };
}
