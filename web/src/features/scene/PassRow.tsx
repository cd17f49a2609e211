/** The passes as sheets in a row: tick what is rendered, choose what is looked at. */
import { useQuery } from "@tanstack/react-query";
import { memo, useEffect, useRef, useState } from "react";
import { fetchPicture } from "../../api/pictures";
import { queries } from "../../api/queries";
import type { PassOut, RenderSetup } from "../../api/scenes";
import { asProblem } from "../../api/client";
import { FIRST_LOOK } from "../../parts/LookBar";
import { missingFor } from "./setupStore";
import { text } from "./strings";

const t = text.PassRow;

/** Milliseconds of rest before the small pictures are drawn anew, and their height. */
const REST = 900;
const HEIGHT = 54;

interface Props {
  scene: number;
  setup: RenderSetup;
  frame: number;
  chosen: string;
  onChoose: (name: string) => void;
  onTick: (passes: string[]) => void;
}

export function PassRow({ scene, setup, frame, chosen, onChoose, onTick }: Props) {
  const passes = useQuery(queries.passes());
  const rows = passes.data ?? [];
  const ticked = new Set(setup.passes);
  const sorted = [...rows].sort((a, b) => rank(a, ticked) - rank(b, ticked));
  return (
    <div
      role="group"
      aria-label={t.passes}
      className="flex shrink-0 gap-2 overflow-x-auto border-t border-line bg-well px-3 py-2"
    >
      {sorted.map((row) => {
        const missing = missingFor(row.needs, setup);
        return (
          <div
            key={row.name}
            ref={row.name === chosen ? intoView : undefined}
            data-pass={row.name}
            className={`w-28 shrink-0 overflow-hidden rounded-md border bg-card ${row.name === chosen ? "border-accent" : "border-line"}`}
          >
            <button
              type="button"
              aria-pressed={row.name === chosen}
              aria-label={t.lookAt(row.name)}
              title={missing ? t.it(row.help, missing) : `${row.help} ${row.unit}`}
              disabled={missing !== null}
              onClick={() => onChoose(row.name)}
              className="block h-[54px] w-full bg-surround"
            >
              {missing ? (
                <span className="block px-1 text-[12px] leading-tight text-white">{missing}</span>
              ) : ticked.has(row.name) || row.name === chosen ? (
                <Small scene={scene} setup={setup} frame={frame} name={row.name} />
              ) : null}
            </button>
            <label className="flex items-center gap-1.5 px-1.5 py-1" title={row.help}>
              <input
                type="checkbox"
                checked={ticked.has(row.name)}
                disabled={missing !== null && !ticked.has(row.name)}
                aria-label={t.render(row.name)}
                onChange={(event) => onTick(ticks(rows, setup, row.name, event.target.checked))}
                className="size-3.5 accent-[var(--accent)]"
              />
              <span className="min-w-0 truncate font-medium">{row.name.replaceAll("_", " ")}</span>
              {row.kind === "data" && <span className="ml-auto text-[12px] text-soft">{t.data}</span>}
            </label>
          </div>
        );
      })}
    </div>
  );
}

/** The pass that is looked at is seen in the row, also when an address led to it. */
function intoView(node: HTMLElement | null): void {
  node?.scrollIntoView({ block: "nearest", inline: "nearest" });
}

const FIRST = [
  "beauty",
  "alpha",
  "diffuse",
  "reflection",
  "transmission",
  "emission",
  "environment",
  "glare",
];

/** Ticked ones first, the light before the data. */
function rank(row: PassOut, ticked: Set<string>): number {
  const place = FIRST.indexOf(row.name);
  return (ticked.has(row.name) ? 0 : 100) + (place < 0 ? 20 : place);
}

/** The passes after a tick; those that the set-up no longer allows go. */
function ticks(rows: PassOut[], setup: RenderSetup, name: string, on: boolean): string[] {
  const next = rows
    .filter((r) => (r.name === name ? on : setup.passes.includes(r.name) && !missingFor(r.needs, setup)))
    .map((r) => r.name);
  // something has to be rendered
  return next.length > 0 ? next : setup.passes;
}

let last: Promise<unknown> = Promise.resolve();

/** One small picture after another, so that the large one never waits behind all of them. */
function inTurn<T>(ask: () => Promise<T>, signal: AbortSignal): Promise<T> {
  const mine = last.then(() => {
    signal.throwIfAborted();
    return ask();
  });
  last = mine.catch(() => undefined);
  return mine;
}

interface SmallProps {
  scene: number;
  setup: RenderSetup;
  frame: number;
  name: string;
}

/** A pass in small; drawn anew once everything has come to rest. */
const Small = memo(function Small({ scene, setup, frame, name }: SmallProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [wrong, setWrong] = useState(false);
  const wish = JSON.stringify({ setup: { ...setup, passes: [] }, frame });
  useEffect(() => {
    const stop = new AbortController();
    const timer = window.setTimeout(() => {
      const level = Math.max(0, Math.ceil(Math.log2(setup.height / HEIGHT / 1.5)));
      const ask = {
        document: setup,
        frame,
        name,
        look: FIRST_LOOK,
        level,
        rays: 4,
        quality: "exact" as const,
      };
      inTurn(() => fetchPicture(`/api/scenes/${scene}/picture`, ask, stop.signal, ""), stop.signal)
        .then((drawn) => {
          const node = canvas.current;
          if (!node || !(drawn.image instanceof ImageData)) return;
          node.width = drawn.image.width;
          node.height = drawn.image.height;
          node.getContext("2d")!.putImageData(drawn.image, 0, 0);
          setWrong(false);
        })
        .catch((error: unknown) => {
          if (!stop.signal.aborted && asProblem(error).code !== "cancelled") setWrong(true);
        });
    }, REST);
    return () => {
      window.clearTimeout(timer);
      stop.abort();
    };
    // the wish holds everything that changes the picture
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [wish, scene, name]);
  return (
    <>
      <canvas ref={canvas} className={`h-full w-full object-cover ${wrong ? "hidden" : ""}`} />
      {wrong && <span className="block px-1 text-[12px] leading-tight text-white">{t.seeThePicture}</span>}
    </>
  );
});
