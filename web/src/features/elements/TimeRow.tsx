/** The element's time: play at its own rate, step, scrub. */
import { Pause, Play, StepBack, StepForward } from "lucide-react";
import { useEffect, useRef } from "react";
import type { ElementOut } from "../../api/client";
import { clampFrame, frameAt } from "../../domain/time";
import { rateInWords, ratePerSecond } from "../../domain/words";
import { Button, SignButton } from "../../ui/basics";
import { FrameField } from "../../ui/FrameField";
import { text } from "./strings";

const t = text.TimeRow;

interface Props {
  element: ElementOut;
  frame: number;
  onFrame: (frame: number) => void;
  playing: boolean;
  onPlaying: (playing: boolean) => void;
}

export function TimeRow({ element, frame, onFrame, playing, onPlaying }: Props) {
  const { first, last } = element.facts ?? { first: 0, last: 0 };
  const rate = element.rate ?? "25";
  const current = useRef(frame);
  useEffect(() => {
    current.current = frame;
  }, [frame]);
  useEffect(() => {
    if (!playing) return;
    const begun = performance.now();
    const from = current.current >= last ? first : current.current;
    let request = requestAnimationFrame(function step(now) {
      const next = frameAt(from, (now - begun) / 1000, ratePerSecond(rate), first, last, "loop")!;
      if (next !== current.current) onFrame(next);
      request = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(request);
  }, [playing, rate, first, last, onFrame]);
  const go = (to: number) => {
    onPlaying(false);
    onFrame(clampFrame(to, first, last));
  };
  return (
    <div className="flex shrink-0 items-center gap-2 border-t border-line bg-card px-3 py-1.5">
      <Button
        kind="main"
        aria-label={playing ? t.pause : t.play}
        className="size-7 !rounded-full !p-0"
        onClick={() => onPlaying(!playing)}
      >
        {playing ? <Pause className="size-3.5" /> : <Play className="size-3.5 fill-current" />}
      </Button>
      <SignButton name={t.oneFrameBack} onClick={() => go(frame - 1)}>
        <StepBack className="size-4" />
      </SignButton>
      <SignButton name={t.oneFrameOn} onClick={() => go(frame + 1)}>
        <StepForward className="size-4" />
      </SignButton>
      <FrameField frame={frame} onGo={go} />
      <span className="num text-soft">/ {last}</span>
      <input
        type="range"
        aria-label={t.time}
        min={first}
        max={last}
        value={frame}
        onChange={(event) => go(Number(event.target.value))}
        className="min-w-24 flex-1 accent-[var(--accent)]"
      />
      <span className="num shrink-0 text-soft">{element.rate ? rateInWords(rate) : t.noRateAt25Fps}</span>
    </div>
  );
}
