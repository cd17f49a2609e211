/** What comes into levels as a histogram, with its black, middle and white as handles; and what goes out. */
import { useQuery } from "@tanstack/react-query";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { compCalls } from "../../../api/comps";
import { numberAt, type Part } from "../../../domain/parts";
import { HistogramPlot } from "../../../parts/HistogramPlot";
import { useDesk } from "../deskState";
import { numberEdit } from "../numberEdit";
import type { StepFieldProps } from "./StepField";

type Props = Pick<StepFieldProps, "store" | "layer" | "index" | "step">;

/** Where between black and white the middle of what goes out comes from. */
export const middleOf = (black: number, white: number, gamma: number) =>
  black + (white - black) * 0.5 ** gamma;

/** The gamma that takes a place between black and white to the middle. */
export function gammaOf(black: number, white: number, middle: number): number {
  const share = (middle - black) / (white - black);
  return Math.max(0.05, Math.min(20, Math.log(Math.max(0.0005, Math.min(0.9995, share))) / Math.log(0.5)));
}

const held = (value: number, low: number, high: number) => Math.max(low, Math.min(high, value));
const rounded = (value: number) => Math.round(value * 1e4) / 1e4;

export function LevelsHandles({ store, layer, index, step }: Props) {
  const frame = useDesk((d) => d.frame);
  const comp = store((s) => s.comp);
  const got = useQuery({
    queryKey: ["levels-in", comp.id, comp.revision, layer.id, index, frame],
    queryFn: ({ signal }) =>
      compCalls.measure(
        comp.id,
        { frame, level: 1, layer: layer.id, extent: "layer", stage: index } as never,
        null,
        signal,
      ),
    placeholderData: (before) => before,
  });
  const part = step as unknown as Part;
  const at = (field: string) => numberAt(part, field, frame);
  const [black, white, gamma] = [at("in_black"), at("in_white"), at("gamma")];
  const set = (field: string, value: number, done: boolean) => {
    const edit = numberEdit(layer.id, { of: "step", index }, field, rounded(value));
    const { sketch, commit } = store.getState();
    if (done) commit(edit, `${field.replace("_", " ")} of Levels`);
    else sketch(edit);
  };
  const codes = Reflect.get(step, "space") === "codes";
  return (
    <div className="pb-1">
      <div className="h-14">
        <HistogramPlot rows={(codes ? got.data?.codes : got.data?.light) ?? {}} />
      </div>
      <Track
        handles={[
          {
            name: "black coming in",
            value: black,
            sign: "fill-[#000]",
            set: (v, done) => set("in_black", held(v, 0, white - 0.004), done),
          },
          {
            name: "middle coming in",
            value: middleOf(black, white, gamma),
            sign: "fill-[#888]",
            set: (v, done) => set("gamma", gammaOf(black, white, v), done),
          },
          {
            name: "white coming in",
            value: white,
            sign: "fill-[#fff]",
            set: (v, done) => set("in_white", held(v, black + 0.004, 1), done),
          },
        ]}
      />
      <div className="mt-1 h-2 rounded border border-line bg-[linear-gradient(to_right,#000,#fff)]" />
      <Track
        handles={[
          {
            name: "black going out",
            value: at("out_black"),
            sign: "fill-[#000]",
            set: (v, done) => set("out_black", held(v, 0, 1), done),
          },
          {
            name: "white going out",
            value: at("out_white"),
            sign: "fill-[#fff]",
            set: (v, done) => set("out_white", held(v, 0, 1), done),
          },
        ]}
      />
    </div>
  );
}

interface Handle {
  name: string;
  /** 0..1 along the track; beyond it stands at the end. */
  value: number;
  sign: string;
  set: (value: number, done: boolean) => void;
}

function Track({ handles }: { handles: Handle[] }) {
  const track = useRef<HTMLDivElement>(null);
  const place = (event: PointerEvent) => {
    const box = track.current!.getBoundingClientRect();
    return held((event.clientX - box.left) / box.width, 0, 1);
  };
  const nudge = (handle: Handle, event: KeyboardEvent) => {
    const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    const by = (event.shiftKey ? 10 : event.altKey ? 0.1 : 1) / 255;
    handle.set(held(handle.value + way * by, 0, 1), true);
  };
  return (
    <div ref={track} className="relative mx-1 h-3">
      {handles.map((handle) => (
        <button
          key={handle.name}
          type="button"
          role="slider"
          aria-label={handle.name}
          aria-valuemin={0}
          aria-valuemax={255}
          aria-valuenow={Math.round(handle.value * 255)}
          title={handle.name}
          className="absolute top-0 -translate-x-1/2 cursor-ew-resize touch-none rounded-sm"
          style={{ left: `${held(handle.value, 0, 1) * 100}%` }}
          onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
          onPointerMove={(event) =>
            event.currentTarget.hasPointerCapture(event.pointerId) && handle.set(place(event), false)
          }
          onPointerUp={(event) =>
            event.currentTarget.hasPointerCapture(event.pointerId) && handle.set(place(event), true)
          }
          onKeyDown={(event) => nudge(handle, event)}
        >
          <svg viewBox="0 0 12 12" className="size-3" aria-hidden>
            <circle cx={6} cy={6} r={5} className={`${handle.sign} stroke-accent`} strokeWidth={1.5} />
          </svg>
        </button>
      ))}
    </div>
  );
}
