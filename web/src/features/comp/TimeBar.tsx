/** Time: play, step, scrub; the chosen layer's life above the comp's. */
import {
  ArrowLeftRight,
  ArrowRightToLine,
  Pause,
  Play,
  Repeat,
  Spline,
  StepBack,
  StepForward,
  Table2,
  GalleryThumbnails,
} from "lucide-react";
import { memo, useRef, type PointerEvent, type ReactNode } from "react";
import { layerOf, lifeOf, type CompDocument } from "../../domain/comp";
import { clampFrame, type Loop } from "../../domain/time";
import { rateInWords } from "../../domain/words";
import { Button, SignButton } from "../../ui/basics";
import { FrameField } from "../../ui/FrameField";
import { useDesk, useDeskFields } from "./deskState";
import { useReady } from "./readyFrames";
import { text } from "./strings";

const t = text.TimeBar;

const LOOPS: Record<Loop, { label: string; help: string; next: Loop; sign: ReactNode }> = {
  loop: {
    label: t.loop,
    help: t.playsFromTheBeginningAgain,
    next: "ping-pong",
    sign: <Repeat className="size-3.5" />,
  },
  "ping-pong": {
    label: t.pingPong,
    help: t.playsForwardsAndBackwardsIn,
    next: "off",
    sign: <ArrowLeftRight className="size-3.5" />,
  },
  off: {
    label: t.once,
    help: t.stopsAtTheEnd,
    next: "loop",
    sign: <ArrowRightToLine className="size-3.5" />,
  },
};

export const TimeBar = memo(function TimeBar({ document }: { document: CompDocument }) {
  const desk = useDeskFields("playing", "loop", "curves", "frames", "set");
  const go = (frame: number) =>
    desk.set({ frame: clampFrame(frame, document.first, document.last), playing: false });
  return (
    <div className="flex h-12 shrink-0 items-center gap-2 border-t border-line bg-card px-3">
      <Button
        kind="main"
        aria-label={desk.playing ? t.pause : t.play}
        className="size-8 !rounded-full !p-0"
        onClick={() => desk.set({ playing: !desk.playing })}
      >
        {desk.playing ? <Pause className="size-4" /> : <Play className="size-4 fill-current" />}
      </Button>
      <SignButton name={t.oneFrameBack} onClick={() => go(useDesk.getState().frame - 1)}>
        <StepBack className="size-4" />
      </SignButton>
      <SignButton name={t.oneFrameOn} onClick={() => go(useDesk.getState().frame + 1)}>
        <StepForward className="size-4" />
      </SignButton>
      <FrameNumber document={document} onGo={go} />
      <Track document={document} onGo={go} />
      <span className="num shrink-0 text-soft">{rateInWords(document.rate)}</span>
      <Button
        title={t.aClickChangesIt(LOOPS[desk.loop].help)}
        onClick={() => desk.set({ loop: LOOPS[desk.loop].next })}
        className={desk.loop !== "off" ? "border-accent bg-accent-soft text-accent" : ""}
      >
        {LOOPS[desk.loop].sign} {LOOPS[desk.loop].label}
      </Button>
      <Button
        aria-pressed={desk.curves}
        title={t.theCurvesOfWhatChanges}
        onClick={() => desk.set({ curves: !desk.curves })}
        className={desk.curves ? "border-accent bg-accent-soft text-accent" : ""}
      >
        <Spline className="size-3.5" />
        {t.curves}
      </Button>
      <Button
        aria-pressed={desk.frames}
        title={t.theFramesSideBySide}
        onClick={() => desk.set({ frames: !desk.frames })}
        className={desk.frames ? "border-accent bg-accent-soft text-accent" : ""}
      >
        <GalleryThumbnails className="size-3.5" />
        {t.frames}
      </Button>
      <Button title={t.oneCompForManyPictures} onClick={() => desk.set({ list: true })}>
        <Table2 className="size-3.5" />
        {t.list}
      </Button>
    </div>
  );
});

function FrameNumber({ document, onGo }: { document: CompDocument; onGo: (frame: number) => void }) {
  const frame = useDesk((d) => d.frame);
  return (
    <span className="num flex shrink-0 items-center gap-1">
      <FrameField frame={frame} onGo={onGo} />
      <span className="text-soft">/ {document.last}</span>
    </span>
  );
}

function Track({ document, onGo }: { document: CompDocument; onGo: (frame: number) => void }) {
  const frame = useDesk((d) => d.frame);
  const layer = layerOf(
    document,
    useDesk((d) => d.layer),
  );
  const range = useDesk((d) => d.range);
  const track = useRef<HTMLDivElement>(null);
  const { first, last } = document;
  const count = last - first + 1;
  const share = (f: number) => `${((f - first + 0.5) / count) * 100}%`;
  const life = layer && lifeOf(document, layer);

  const scrub = (event: PointerEvent) => {
    const box = track.current!.getBoundingClientRect();
    onGo(first + Math.floor(((event.clientX - box.left) / box.width) * count));
  };
  return (
    <div
      ref={track}
      role="slider"
      tabIndex={0}
      aria-label={t.time}
      aria-valuemin={first}
      aria-valuemax={last}
      aria-valuenow={frame}
      className="relative h-9 min-w-24 flex-1 cursor-pointer touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        scrub(event);
      }}
      onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && scrub(event)}
      onKeyDown={(event) => {
        const step = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[event.key];
        if (event.key === "Home") onGo(first);
        else if (event.key === "End") onGo(last);
        else if (step) onGo(frame + step);
        else return;
        event.preventDefault();
      }}
    >
      <div className="absolute inset-x-0 top-[19px] h-[3px] rounded bg-line" />
      <ReadyMarks first={first} count={count} />
      {range && (
        <div
          title={t.playedFramesTo(range[0], range[1])}
          className="absolute top-[5px] h-6.5 border-x-2 border-accent bg-accent-soft/40"
          style={{
            left: `${((range[0] - first) / count) * 100}%`,
            width: `${((range[1] - range[0] + 1) / count) * 100}%`,
          }}
        />
      )}
      {life && (
        <div
          title={t.framesTo(layer.name, life[0], life[1])}
          className="absolute top-[11px] h-[3px] rounded bg-accent"
          style={{
            left: `${((life[0] - first) / count) * 100}%`,
            width: `${((Math.min(life[1], last) - life[0] + 1) / count) * 100}%`,
          }}
        />
      )}
      <div
        className="absolute top-1.5 h-6 w-0.5 -translate-x-1/2 rounded bg-ink"
        style={{ left: share(frame) }}
      />
    </div>
  );
}

/** Which frames are ready to be played, as runs under the track. */
function ReadyMarks({ first, count }: { first: number; count: number }) {
  const frames = useReady((r) => r.frames);
  const runs: [number, number][] = [];
  for (const f of [...frames.keys()].sort((a, b) => a - b)) {
    const run = runs.at(-1);
    if (run && run[1] === f - 1) run[1] = f;
    else runs.push([f, f]);
  }
  return runs.map(([a, b]) => (
    <div
      key={a}
      className="absolute top-[27px] h-[3px] bg-soft"
      style={{ left: `${((a - first) / count) * 100}%`, width: `${((b - a + 1) / count) * 100}%` }}
    />
  ));
}
