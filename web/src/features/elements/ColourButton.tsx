/** The configurations of OpenColorIO that a project has: those that ship, and its own. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { asProblem } from "../../api/client";
import { colourCalls, type ConfigurationOut } from "../../api/colour";
import { queries } from "../../api/queries";
import { Ask } from "../../ui/Ask";
import { Button, ProblemNote, SignButton } from "../../ui/basics";
import { Tick } from "../../ui/Tick";
import { text } from "./strings";

const t = text.ColourButton;

export function ColourButton({ project }: { project: number }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>{t.colour} …</Button>
      {open && <Configurations project={project} onClose={() => setOpen(false)} />}
    </>
  );
}

function Configurations({ project, onClose }: { project: number; onClose: () => void }) {
  const cache = useQueryClient();
  const found = useQuery(queries.colour(project));
  const file = useRef<HTMLInputElement>(null);
  const onSuccess = () => cache.invalidateQueries({ queryKey: ["colour", project] });
  const [stop, setStop] = useState<AbortController | null>(null);
  const bring = useMutation({
    mutationFn: (chosen: File) => {
      const controller = new AbortController();
      setStop(controller);
      return colourCalls.bring(project, chosen, controller.signal);
    },
    onSuccess,
  });
  const reads = useMutation({
    mutationFn: (row: ConfigurationOut) => colourCalls.reads(project, row.key, !row.reads),
    onSuccess,
  });
  const takeOut = useMutation({ mutationFn: (key: string) => colourCalls.takeOut(project, key), onSuccess });
  const stopped = bring.error instanceof DOMException && bring.error.name === "AbortError";
  const error = (stopped ? null : bring.error) ?? reads.error ?? takeOut.error ?? found.error;
  return (
    <Ask title={t.colour} open onClose={onClose}>
      <p className="mb-2 text-soft">{t.whatTheyAreFor}</p>
      <ul className="space-y-1.5" aria-label={t.configurations}>
        {(found.data?.configurations ?? []).map((row) => (
          <li key={row.key} className="rounded-md border border-line bg-card px-2.5 py-2">
            <div className="flex items-center gap-2">
              <span className="min-w-0 flex-1 font-medium [overflow-wrap:anywhere]">{row.title}</span>
              {row.own && (
                <SignButton name={t.takeOut(row.title)} onClick={() => takeOut.mutate(row.key)}>
                  <Trash2 className="size-3.5" />
                </SignButton>
              )}
            </div>
            {row.problem ? (
              <p className="text-error">{row.problem}</p>
            ) : (
              <p className="num text-soft">{t.holds(row.spaces, row.views, row.own)}</p>
            )}
            {row.own && !row.problem && (
              <Tick
                label={t.reads}
                help={t.readsHelp}
                checked={row.reads}
                onChange={() => reads.mutate(row)}
              />
            )}
          </li>
        ))}
      </ul>
      {error && (
        <div className="mt-2">
          <ProblemNote problem={asProblem(error)} />
        </div>
      )}
      <input
        ref={file}
        type="file"
        hidden
        accept=".ocio,.ocioz"
        aria-label={t.file}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) bring.mutate(chosen);
          event.target.value = "";
        }}
      />
      <div className="mt-4 flex items-center justify-end gap-2">
        {bring.isPending && (
          <span role="status" className="mr-auto text-soft">
            {t.checking}
          </span>
        )}
        {bring.isPending && <Button onClick={() => stop?.abort()}>{t.cancel}</Button>}
        <Button autoFocus onClick={onClose}>
          {t.close}
        </Button>
        <Button kind="main" disabled={bring.isPending} onClick={() => file.current?.click()}>
          {t.bring}
        </Button>
      </div>
    </Ask>
  );
}
