/** Two looks at a comp: parted by a line, side by side, or their difference; states and looks under names. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Undo2, X } from "lucide-react";
import { useState } from "react";
import { asProblem } from "../../api/client";
import { compCalls } from "../../api/comps";
import { presetCalls } from "../../api/presets";
import { queries } from "../../api/queries";
import { documentOf, layerOf } from "../../domain/comp";
import { Ask, TextField } from "../../ui/Ask";
import { Button, ProblemNote, SignButton } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import { choicesOf, type Against, type Comparison } from "./comparing";
import { useDesk, useDeskFields } from "./deskState";
import type { DocumentStore } from "./documentStore";

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
  const forget = useMutation({
    mutationFn: () => compCalls.forgetState(comp, state!.revision),
    onSuccess: again,
  });
  const look = chosen?.option.value.startsWith("look") ? Number(chosen.option.value.slice(4)) : null;
  const forgetLook = useMutation({ mutationFn: () => presetCalls.forget(look!), onSuccess: again });
  return (
    <div
      role="group"
      aria-label="Compare"
      className="flex flex-wrap items-center gap-x-2.5 gap-y-1 border-b border-line bg-panel px-3 py-1"
    >
      <Segments<Comparison["how"]>
        name="How two looks are compared"
        small
        value={compare.how}
        choices={[
          { value: "wipe", label: "Wipe", tip: "Parted by a line that is dragged" },
          { value: "beside", label: "Side by side" },
          { value: "difference", label: "Difference" },
        ]}
        onChange={(how) => change({ how })}
      />
      <span className="text-soft">with</span>
      <span className="flex w-52">
        {all.length > 0 ? (
          <Choose
            name="Compared with"
            value={chosen!.option.value}
            options={all.map((a) => a.option)}
            onChange={(next) => change({ with: next })}
          />
        ) : (
          <span className="text-soft">nothing yet: choose a layer, or name a state</span>
        )}
      </span>
      {compare.how === "wipe" && (
        <span className="flex w-36 [&>div]:w-full [&_label]:!w-10">
          <NumberField
            name="lean"
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
            name="times"
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
      {state && (
        <>
          <SignButton
            name={`Go back to ${state.name}`}
            onClick={() => store.getState().commit(() => documentOf(state.document), `back to ${state.name}`)}
          >
            <Undo2 className="size-3.5" />
          </SignButton>
          <SignButton name={`Forget the name ${state.name}`} onClick={() => forget.mutate()}>
            <X className="size-3.5" />
          </SignButton>
        </>
      )}
      {look !== null && (
        <SignButton name={`Forget the look ${chosen!.option.label}`} onClick={() => forgetLook.mutate()}>
          <X className="size-3.5" />
        </SignButton>
      )}
      <span className="ml-auto flex gap-1.5">
        <NameIt
          button="Name this state"
          help="The comp as it is now, to be compared with and gone back to."
          work={(name) => compCalls.nameState(comp, name)}
          onDone={again}
        />
        <NameIt
          button="Keep this look"
          help="Which frame and what of the comp is shown, for the whole project."
          work={(name) => presetCalls.keep(project, "look", name, { frame, layer, extent })}
          onDone={again}
        />
        <SignButton name="End comparing" onClick={() => change({ how: "off" })}>
          <X className="size-4" />
        </SignButton>
      </span>
    </div>
  );
}

interface NameProps {
  button: string;
  help: string;
  work: (name: string) => Promise<unknown>;
  onDone: () => Promise<void>;
}

function NameIt({ button, help, work, onDone }: NameProps) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const save = useMutation({
    mutationFn: () => work(name.trim()),
    onSuccess: async () => {
      setOpen(false);
      setName("");
      await onDone();
    },
  });
  return (
    <>
      <Button className="!min-h-6 !py-0" title={help} onClick={() => setOpen(true)}>
        {button} …
      </Button>
      <Ask title={button} open={open} onClose={() => setOpen(false)}>
        <form
          className="space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            save.mutate();
          }}
        >
          <p className="text-soft">{help}</p>
          <TextField label="Name" value={name} onChange={setName} autoFocus />
          {save.error && <ProblemNote problem={asProblem(save.error)} />}
          <div className="flex justify-end gap-2">
            <Button onClick={() => setOpen(false)}>Cancel</Button>
            <Button kind="main" type="submit" disabled={!name.trim() || save.isPending}>
              Keep it
            </Button>
          </div>
        </form>
      </Ask>
    </>
  );
}
