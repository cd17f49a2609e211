/** One pass of one frame as it will look: coarse while something moves, finer at rest. */
import { StepBack, StepForward } from "lucide-react";
import { useCallback, useEffect, useMemo, useState } from "react";
import { client, take } from "../../api/client";
import type { components } from "../../api/schema";
import type { RenderSetup, SceneAsk, SceneOut } from "../../api/scenes";
import type { View } from "../../domain/geometry";
import { clampFrame } from "../../domain/time";
import { rateInWords } from "../../domain/words";
import { LookBar } from "../../parts/LookBar";
import { useLookOfAddress } from "../../parts/lookAddress";
import { ProblemNote, SignButton } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { FrameField } from "../../ui/FrameField";
import { Tick } from "../../ui/Tick";
import { usePicture, type Asked } from "../../ui/usePicture";
import { Viewer, type Wanted } from "../../ui/Viewer";
import { OrbitOver } from "./OrbitOver";
import { text } from "./strings";

const t = text.ScenePicture;

/** Milliseconds of rest before finer pictures are asked for, and how many rays a pixel they have. */
const REST = 250;
const FINER = [4, 16];

interface Props {
  scene: SceneOut;
  setup: RenderSetup;
  frame: number;
  name: string;
  onFrame: (frame: number) => void;
}

export function ScenePicture({ scene, setup, frame, name, onFrame }: Props) {
  const [look, setLook] = useLookOfAddress();
  const [stored, setStored] = useState(false);
  const [layer, setLayer] = useState("");
  const [view, setView] = useState<View | null>(null);
  const [wanted, setWanted] = useState<Wanted>({ level: 1, region: null });
  const known = setup.layers.some((x) => x.name === layer && x.render) && !setup.flattened;

  const ask = useMemo(
    () => ({
      document: setup,
      frame,
      name,
      layer: known ? layer : "",
      as_stored: stored && name === "beauty",
      look,
      level: wanted.level,
      region: wanted.region,
    }),
    [setup, frame, name, layer, known, stored, look, wanted],
  );
  const settled = useSettled(JSON.stringify(ask));
  const [point, setPoint] = useState<[number, number] | null>(null);
  const stamp = JSON.stringify(ask);
  const [reached, setReached] = useState({ stamp: "", rays: 1 });
  const there = reached.stamp === stamp ? reached.rays : 0;
  // each finer picture is asked for once the one before is there
  const rays = settled ? (FINER.find((r) => r > there && r / 4 < setup.samples) ?? there) : 1;
  const asked: Asked = {
    address: `/api/scenes/${scene.id}/picture`,
    stamp,
    // what comes at once is never larger than a quarter of the usual size
    ask:
      rays > 1
        ? { ...ask, quality: "exact" as const, rays }
        : { ...ask, ...quickly(ask), quality: "fast" as const, rays },
  };
  const picture = usePicture(asked, "scene");
  const { drawn, shown, busy } = picture;
  const onPainted = useCallback(() => {
    if (shown) setReached({ stamp: shown.stamp ?? "", rays: (shown.ask as SceneAsk).rays ?? 1 });
  }, [shown]);
  const channels = useChannels(scene.id, ask, point);
  const size = { width: setup.width, height: setup.height };
  const placed = setup.placed_camera;
  const most = Math.min(setup.samples, FINER.at(-1)!);

  return (
    <div className="flex h-full min-h-0 flex-col">
      <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-2 border-b border-line bg-card px-3 py-1">
        <LookBar look={look} onLook={setLook} />
        {name === "beauty" && (
          <Tick
            label={t.asTheFileHoldsIt}
            checked={stored}
            onChange={setStored}
            help={t.rgbNotMultipliedByAnything}
          />
        )}
        {setup.layers.length > 0 && !setup.flattened && (
          <span className="flex w-40">
            <Choose
              name={t.layer}
              value={known ? layer : " "}
              options={[
                { value: " ", label: t.allLayers },
                ...setup.layers.filter((x) => x.render).map((x) => ({ value: x.name, label: x.name })),
              ]}
              onChange={(value) => setLayer(value.trim())}
            />
          </span>
        )}
      </div>
      <div className="relative min-h-0 flex-1" data-rays={there} data-busy={busy || !settled}>
        <Viewer
          frame={size}
          drawn={drawn}
          onPainted={onPainted}
          drawnLevel={picture.level}
          view={view}
          onView={setView}
          onWanted={setWanted}
          onPoint={setPoint}
          over={
            placed
              ? (seen) => <OrbitOver camera={placed} frame={frame} height={setup.height * seen.zoom} />
              : undefined
          }
          name={t.frame(scene.name, name, frame)}
        />
      </div>
      <p
        aria-label={t.valuesUnderThePointer}
        className="num h-6 shrink-0 truncate border-t border-line bg-card px-3 py-0.5 whitespace-pre text-soft"
      >
        {point ? `${point[0]}, ${point[1]}   ${channels}` : t.pointAtThePictureFor}
      </p>
      {picture.problem && (
        <div className="border-t border-line p-2">
          <ProblemNote problem={picture.problem} />
        </div>
      )}
      <FrameBar setup={setup} frame={frame} onFrame={onFrame}>
        <span role="status" className="num w-52 shrink-0 text-right text-soft">
          {t.ofRays(
            Math.min(Math.max(there, 1), most),
            most,
            busy ? " …" : "",
            drawn ? t.ms(Math.round(drawn.milliseconds)) : "",
          )}
        </span>
      </FrameBar>
    </div>
  );
}

/** The whole frame is never asked for at once larger than half its size; a part of it is. */
function quickly({ level, region }: Wanted): Wanted {
  return region === null && level === 0 ? { level: 1, region } : { level, region };
}

/** Milliseconds that the pointer rests before it is asked what lies under it. */
const POINT_REST = 60;

/** The pass's values under the pointer, in words; empty while they are asked for. */
function useChannels(scene: number, ask: Omit<SceneAsk, "x">, point: [number, number] | null): string {
  const [told, setTold] = useState({ wish: "", text: "" });
  const wish = point && JSON.stringify({ ...ask, x: point[0], y: point[1], rays: 16, region: null });
  useEffect(() => {
    if (!wish) return;
    const stop = new AbortController();
    const timer = window.setTimeout(() => {
      const body = JSON.parse(wish) as components["schemas"]["DraftPoint"];
      const params = { path: { scene_id: scene } };
      take<components["schemas"]["PassValues"]>(
        client.POST("/api/scenes/{scene_id}/values", { params, body, signal: stop.signal }),
      )
        .then(({ channels }) => setTold({ wish, text: channelsInWords(channels) }))
        .catch(() => setTold({ wish, text: "" }));
    }, POINT_REST);
    return () => {
      window.clearTimeout(timer);
      stop.abort();
    };
  }, [wish, scene]);
  return told.wish === wish ? told.text : "…";
}

const channelsInWords = (channels: Record<string, number>) =>
  Object.entries(channels)
    .map(([name, value]) => `${name} ${Math.abs(value) >= 1e6 ? value.toExponential(3) : value.toFixed(4)}`)
    .join("   ");

/** Whether a wish has stayed the same for a moment. */
function useSettled(wish: string): boolean {
  const [rested, setRested] = useState("");
  useEffect(() => {
    const timer = window.setTimeout(() => setRested(wish), REST);
    return () => window.clearTimeout(timer);
  }, [wish]);
  return rested === wish;
}

interface FrameBarProps {
  setup: RenderSetup;
  frame: number;
  onFrame: (frame: number) => void;
  children: React.ReactNode;
}

function FrameBar({ setup, frame, onFrame, children }: FrameBarProps) {
  const go = (to: number) => onFrame(clampFrame(to, setup.first, setup.last));
  return (
    <div className="flex h-10 shrink-0 items-center gap-2 border-t border-line bg-card px-3">
      <SignButton name={t.oneFrameBack} onClick={() => go(frame - 1)}>
        <StepBack className="size-4" />
      </SignButton>
      <SignButton name={t.oneFrameOn} onClick={() => go(frame + 1)}>
        <StepForward className="size-4" />
      </SignButton>
      <FrameField frame={frame} onGo={go} />
      <input
        type="range"
        aria-label={t.time}
        min={setup.first}
        max={setup.last}
        value={frame}
        onChange={(event) => go(Number(event.target.value))}
        className="min-w-20 flex-1 accent-[var(--accent)]"
      />
      <span className="num shrink-0 text-soft">{t.ofFrames(setup.last, rateInWords(setup.rate))}</span>
      {children}
    </div>
  );
}
