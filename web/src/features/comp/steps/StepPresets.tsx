/** Sets of steps that the project keeps under names: laid on a layer, kept from one, dropped. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ChevronDown, X } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { asProblem } from "../../../api/client";
import { presetCalls } from "../../../api/presets";
import { queries } from "../../../api/queries";
import type { Step } from "../../../domain/comp";
import { Ask, TextField } from "../../../ui/Ask";
import { Button, ProblemNote } from "../../../ui/basics";
import { text } from "../strings";

const t = text.StepPresets;

interface Props {
  project: number;
  /** Of the layer, as they are when they are kept. */
  steps: () => Step[];
  onUse: (steps: Step[], name: string) => void;
  /** Only sets of one step of this kind, called by these words. */
  of?: { kind: string; one: string; many: string };
}

const ITEM =
  "flex items-center gap-2 rounded px-2 py-1 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none";

export function StepPresets({ project, steps, onUse, of }: Props) {
  const kept = useQuery(queries.presets(project));
  const cache = useQueryClient();
  const again = () => cache.invalidateQueries({ queryKey: queries.presets(project).queryKey });
  const [asking, setAsking] = useState(false);
  const [name, setName] = useState("");
  const keep = useMutation({
    mutationFn: () => presetCalls.keep(project, "steps", name.trim(), steps()),
    onSuccess: async () => {
      setAsking(false);
      setName("");
      await again();
    },
  });
  const forget = useMutation({ mutationFn: presetCalls.forget, onSuccess: again });
  const only = (content: Step[]) => !of || (content.length === 1 && content[0]?.kind === of.kind);
  const sets = (kept.data ?? []).filter((k) => k.kind === "steps" && only(k.content as Step[]));
  const keepTitle = of ? t.keepThis(of.one) : t.keepTheseStepsAsA;
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button>
            {of ? of.many : t.sets} <ChevronDown className="size-3.5" />
          </Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            className="z-50 max-h-[min(60vh,var(--radix-dropdown-menu-content-available-height))] w-72 overflow-auto rounded-md border border-line bg-card p-1 shadow-lg"
          >
            {sets.length === 0 && (
              <p className="px-2 py-1 text-soft">{of ? t.noIsKeptYetIt(of.one) : t.noSetIsKeptYet}</p>
            )}
            {sets.map((set) => (
              <div key={set.id} className="flex items-center">
                <DropdownMenu.Item
                  className={`${ITEM} min-w-0 flex-1`}
                  onSelect={() => onUse(set.content as Step[], set.name)}
                >
                  <span className="truncate">{set.name}</span>
                  {!of && (
                    <span className="ml-auto shrink-0 text-soft">
                      {t.steps((set.content as Step[]).length)}
                    </span>
                  )}
                </DropdownMenu.Item>
                <button
                  type="button"
                  aria-label={t.forgetTheSet(set.name)}
                  className="grid size-6 shrink-0 place-items-center rounded text-soft hover:bg-well"
                  onClick={() => forget.mutate(set.id)}
                >
                  <X className="size-3.5" />
                </button>
              </div>
            ))}
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            <DropdownMenu.Item
              disabled={steps().length === 0}
              className={`${ITEM} data-[disabled]:text-soft`}
              onSelect={() => setAsking(true)}
            >
              {keepTitle} …
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Ask title={keepTitle} open={asking} onClose={() => setAsking(false)}>
        <form
          className="space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            keep.mutate();
          }}
        >
          <TextField label={t.name} value={name} onChange={setName} autoFocus />
          {sets.some((s) => s.name === name.trim()) && <p className="text-soft">{t.theSetOfThatName}</p>}
          {keep.error && <ProblemNote problem={asProblem(keep.error)} />}
          <div className="flex justify-end gap-2">
            <Button onClick={() => setAsking(false)}>{t.cancel}</Button>
            <Button kind="main" type="submit" disabled={!name.trim() || keep.isPending}>
              {t.keepIt}
            </Button>
          </div>
        </form>
      </Ask>
    </>
  );
}
