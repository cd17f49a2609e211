/** What comes into levels as a histogram, with its black, middle and white as handles; and what goes out. */
import { useQuery } from "@tanstack/react-query";
import { compCalls } from "../../../api/comps";
import { numberAt, type Part } from "../../../domain/parts";
import { HistogramPlot } from "../../../parts/HistogramPlot";
import { useDesk } from "../deskState";
import { numberEdit } from "../numberEdit";
import { held, Track } from "../Track";
import type { StepFieldProps } from "./fieldProps";
import { text } from "../strings";

const t = text.LevelsHandles;

type Props = Pick<StepFieldProps, "store" | "layer" | "index" | "step">;

/** Where between black and white the middle of what goes out comes from. */
export const middleOf = (black: number, white: number, gamma: number) =>
  black + (white - black) * 0.5 ** gamma;

/** The gamma that takes a place between black and white to the middle. */
export function gammaOf(black: number, white: number, middle: number): number {
  const share = (middle - black) / (white - black);
  return Math.max(0.05, Math.min(20, Math.log(Math.max(0.0005, Math.min(0.9995, share))) / Math.log(0.5)));
}

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
    if (done) commit(edit, t.ofLevels(field.replace("_", " ")));
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
            name: t.blackComingIn,
            value: black,
            sign: "fill-[#000]",
            set: (v, done) => set("in_black", held(v, 0, white - 0.004), done),
          },
          {
            name: t.middleComingIn,
            value: middleOf(black, white, gamma),
            sign: "fill-[#888]",
            set: (v, done) => set("gamma", gammaOf(black, white, v), done),
          },
          {
            name: t.whiteComingIn,
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
            name: t.blackGoingOut,
            value: at("out_black"),
            sign: "fill-[#000]",
            set: (v, done) => set("out_black", held(v, 0, 1), done),
          },
          {
            name: t.whiteGoingOut,
            value: at("out_white"),
            sign: "fill-[#fff]",
            set: (v, done) => set("out_white", held(v, 0, 1), done),
          },
        ]}
      />
    </div>
  );
}
