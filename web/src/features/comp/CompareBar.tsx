/** Two looks at a comp: parted by a line, side by side, or their difference; states and looks under names. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { presetCalls } from "../../api/presets";
import { queries } from "../../api/queries";
import { layerOf } from "../../domain/comp";
import { SignButton } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import { choicesOf, type Against, type Comparison } from "./comparing";
import { useDesk, useDeskFields } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { NameState, StateButtons } from "./KeptStates";
import { NameIt } from "./NameIt";
import { text } from "./strings";

const t = text.CompareBar;

interface Props {
  store: DocumentStore;
  comp: number;
  project: number;
}

/** Everything the comp can be compared with, and the one that is chosen. */
export function useAgainst(store: DocumentStore, comp: number, project: number) {
  const document = store((s) => s.document);
  const states = useQuery(queries.states(comp, project));
  const kept = useQuery(queries.presets(project));
  const tables = useQuery(queries.tables());
  const layer = layerOf(
    document,
    useDesk((d) => d.layer),
  );
  const titles = Object.fromEntries((tables.data?.steps ?? []).map((s) => [s.kind, s.title]));
  const all = choicesOf(
    layer,
    titles,
    states.data ?? [],
    (kept.data ?? []).filter((k) => k.kind === "look"),
  );
  const wish = useDesk((d) => d.compare.with);
  const chosen: Against | undefined = all.find((a) => a.option.value === wish) ?? all[0];
  return { all, chosen, states: states.data ?? [] };
}

export function CompareBar({ store, comp, project }: Props) {
  const { compare, set, frame, layer, extent } = useDeskFields("compare", "set", "frame", "layer", "extent");
  const { all, chosen, states } = useAgainst(store, comp, project);
  const change = (part: Partial<Comparison>) => set({ compare: { ...compare, ...part } });
  const state = states.find((s) => `state${s.revision}` === chosen?.option.value);
  const cache = useQueryClient();
  const again = () => cache.invalidateQueries({ queryKey: ["comps", project] });
  const look = chosen?.option.value.startsWith("look") ? Number(chosen.option.value.slice(4)) : null;
  const forgetLook = useMutation({ mutationFn: () => presetCalls.forget(look!), onSuccess: again });
  return (
    <div
      role="group"
      aria-label={t.compare}
      className="flex flex-wrap items-center gap-x-2.5 gap-y-1 border-b border-line bg-panel px-3 py-1"
    >
      <Segments<Comparison["how"]>
        name={t.howTwoLooksAreCompared}
        small
        value={compare.how}
        choices={[
          { value: "wipe", label: t.wipe, tip: t.partedByALineThat },
          { value: "beside", label: t.sideBySide },
          { value: "difference", label: t.difference },
        ]}
        onChange={(how) => change({ how })}
      />
      <span className="text-soft">{t.withWord}</span>
      <span className="flex w-52">
        {all.length > 0 ? (
          <Choose
            name={t.comparedWith}
            value={chosen!.option.value}
            options={all.map((a) => a.option)}
            onChange={(next) => change({ with: next })}
          />
        ) : (
          <span className="text-soft">{t.nothingYetChooseALayer}</span>
        )}
      </span>
      {compare.how === "wipe" && (
        <span className="flex w-36 [&>div]:w-full [&_label]:!w-10">
          <NumberField
            name={t.lean}
            value={compare.angle}
            min={-180}
            max={180}
            step={1}
            digits={0}
            unit="°"
            rest={0}
            onCommit={(angle) => change({ angle })}
          />
        </span>
      )}
      {compare.how === "difference" && (
        <span className="flex w-32 [&>div]:w-full [&_label]:!w-10">
          <NumberField
            name={t.times}
            value={compare.gain}
            min={1}
            max={255}
            step={1}
            digits={0}
            rest={1}
            onCommit={(gain) => change({ gain })}
          />
        </span>
      )}
      {state && <StateButtons store={store} state={state} comp={comp} project={project} />}
      {look !== null && (
        <SignButton name={t.forgetTheLook(chosen!.option.label)} onClick={() => forgetLook.mutate()}>
          <X className="size-3.5" />
        </SignButton>
      )}
      <span className="ml-auto flex gap-1.5">
        <NameState comp={comp} project={project} />
        <NameIt
          button={t.keepThisLook}
          help={t.whichFrameAndWhatOf}
          work={(name) => presetCalls.keep(project, "look", name, { frame, layer, extent })}
          onDone={again}
        />
        <SignButton name={t.endComparing} onClick={() => change({ how: "off" })}>
          <X className="size-4" />
        </SignButton>
      </span>
    </div>
  );
}
