/** A new comp: its name, and a size, rate and length that are typed, or those of an element or a comp. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ChevronDown } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import { asProblem, client, take, type CompOut, type ElementOut } from "../../api/client";
import { queries } from "../../api/queries";
import { newDocument } from "../../domain/comp";
import { compAsElement } from "../../domain/compSource";
import { useSpaces } from "../../parts/useSpaces";
import { Ask, TextField } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { ElementMenu } from "./ElementMenu";
import { WorkingSpace } from "./WorkingSpace";
import { text } from "./strings";

const t = text.NewComp;

/** What of the form an element says: a still has no length, frames without a rate no rate. */
export function formatOf(element: ElementOut): Record<string, string> {
  if (!element.facts) return {};
  const { kind, width, height, first, last } = element.facts;
  return {
    width: String(width),
    height: String(height),
    ...(element.rate ? { rate: element.rate } : {}),
    ...(kind === "still" ? {} : { last: String(last - first + 1) }),
  };
}

export function NewComp({ open, onClose, project }: { open: boolean; onClose: () => void; project: number }) {
  const cache = useQueryClient();
  const go = useNavigate();
  const [form, setForm] = useState({ name: "", width: "1920", height: "1080", rate: "25", last: "48" });
  const [chosen, setWorking] = useState<string | null>(null);
  const { ofNewComps } = useSpaces();
  const working = chosen ?? ofNewComps;
  const elements = useQuery({ ...queries.elements(project), enabled: open });
  const comps = useQuery({ ...queries.comps(project), enabled: open });
  const like = (element: ElementOut) => setForm({ ...form, ...formatOf(element) });
  const field = (key: keyof typeof form) => ({
    value: form[key],
    onChange: (value: string) => setForm({ ...form, [key]: value }),
  });
  const add = useMutation({
    mutationFn: () =>
      take<CompOut>(
        client.POST("/api/projects/{project_id}/comps", {
          params: { path: { project_id: project } },
          body: newDocument(
            form.name.trim(),
            { width: Number(form.width), height: Number(form.height) },
            form.rate.trim(),
            Number(form.last),
            working,
          ),
        }),
      ),
    onSuccess: async (comp) => {
      await cache.invalidateQueries({ queryKey: ["comps", project] });
      onClose();
      void go(`/projects/${project}/comp/${comp.id}`);
    },
  });
  return (
    <Ask title={t.newComp3} open={open} onClose={onClose}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate();
        }}
      >
        <TextField label={t.name} {...field("name")} autoFocus />
        <div className="grid grid-cols-2 gap-3">
          <TextField label={t.widthPixels} {...field("width")} />
          <TextField label={t.heightPixels} {...field("height")} />
          <TextField label={t.frameRateFps} {...field("rate")} help={t.rateExamples} />
          <TextField label={t.numberOfFrames} {...field("last")} />
        </div>
        <WorkingSpace value={working} onChange={setWorking} />
        <ElementMenu
          side="bottom"
          elements={[...(comps.data ?? []).map(compAsElement), ...(elements.data ?? [])]}
          onChoose={like}
          trigger={
            <DropdownMenu.Trigger asChild>
              <Button>
                {t.like}
                <ChevronDown aria-hidden className="size-3.5" />
              </Button>
            </DropdownMenu.Trigger>
          }
        />
        {add.error && <ProblemNote problem={asProblem(add.error)} />}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t.cancel}</Button>
          <Button kind="main" type="submit" disabled={!form.name.trim() || add.isPending}>
            {t.create}
          </Button>
        </div>
      </form>
    </Ask>
  );
}
