/** The keyboard reaches everything; the list is shown under `?`. */
import { useEffect } from "react";
import { changeLayer, removeLayer } from "../../domain/comp";
import { clampFrame } from "../../domain/time";
import { CHANNEL_KEYS } from "../../parts/LookBar";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";

export const KEYS: [string, string][] = [
  ["Space", "play, pause"],
  ["← →", "one frame back, on (with Shift: ten)"],
  ["Home End", "first, last frame"],
  ["I O", "play from, to this frame"],
  ["U", "play all frames"],
  ["1 … 7", "colour, RGB, alpha, R, G, B, straight"],
  ["B", "before and after the chosen layer’s work"],
  ["C", "compare two looks; again: end it"],
  ["Esc", "take the drawn line or box away"],
  ["F", "fit the picture"],
  ["P", "pixel for pixel"],
  ["[ ]", "choose the layer behind, in front"],
  ["H", "hide, show the chosen layer"],
  ["Delete", "take the chosen layer out"],
  ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
  ["?", "this list"],
];

function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.matches("input, textarea, select, [role=slider], [role=radio], [role=option]") ||
      !!target.closest("[role=dialog], [role=menu]"))
  );
}

export function useKeys(store: DocumentStore): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        event.preventDefault();
        if (event.shiftKey) store.getState().redo();
        else store.getState().undo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      if (act(event.key, event.shiftKey, store)) event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [store]);
}

/** Whether the key meant anything. */
function act(key: string, shift: boolean, store: DocumentStore): boolean {
  const desk = useDesk.getState();
  const { document, commit } = store.getState();
  const go = (frame: number) =>
    desk.set({ frame: clampFrame(frame, document.first, document.last), playing: false });
  const index = document.layers.findIndex((l) => l.id === desk.layer);
  const chosen = document.layers[index];
  switch (key) {
    case " ":
      desk.set({ playing: !desk.playing });
      return true;
    case "ArrowLeft":
      go(desk.frame - (shift ? 10 : 1));
      return true;
    case "ArrowRight":
      go(desk.frame + (shift ? 10 : 1));
      return true;
    case "Home":
      go(document.first);
      return true;
    case "End":
      go(document.last);
      return true;
    case "b":
      if (chosen) desk.set({ before: !desk.before });
      return true;
    case "i":
      desk.set({ range: [desk.frame, Math.max(desk.frame, desk.range?.[1] ?? document.last)] });
      return true;
    case "o":
      desk.set({ range: [Math.min(desk.frame, desk.range?.[0] ?? document.first), desk.frame] });
      return true;
    case "u":
      desk.set({ range: null });
      return true;
    case "Escape":
      desk.set({ mark: null, drawing: null });
      return true;
    case "c":
      desk.set({ compare: { ...desk.compare, how: desk.compare.how === "off" ? "wipe" : "off" } });
      return true;
    case "f":
      desk.set({ view: null });
      return true;
    case "p":
      desk.set({
        view: { zoom: 1 / window.devicePixelRatio, x: document.width / 2, y: document.height / 2 },
      });
      return true;
    case "[":
    case "]": {
      const next = document.layers[index < 0 ? document.layers.length - 1 : index + (key === "]" ? 1 : -1)];
      if (next) desk.set({ layer: next.id });
      return true;
    }
    case "h":
      if (chosen)
        commit(
          (d) => changeLayer(d, chosen.id, { shown: !chosen.shown }),
          chosen.shown ? `hide ${chosen.name}` : `show ${chosen.name}`,
        );
      return true;
    case "Delete":
      if (chosen) commit((d) => removeLayer(d, chosen.id), `take out ${chosen.name}`);
      return true;
  }
  const channel = /^[0-9]$/.test(key) ? CHANNEL_KEYS[(Number(key) + 9) % 10] : undefined;
  if (channel) desk.set({ look: { ...desk.look, channel } });
  return channel !== undefined;
}
