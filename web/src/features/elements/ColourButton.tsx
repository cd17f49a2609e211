/** The configurations of OpenColorIO that a project has: those that ship, and its own. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { colourCalls, type ConfigurationOut } from "../../api/colour";
import { queries } from "../../api/queries";
import { BroughtFile, BroughtFiles } from "../../parts/BroughtFiles";
import { Button, SignButton } from "../../ui/basics";
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
  const onSuccess = () => cache.invalidateQueries({ queryKey: ["colour", project] });
  const reads = useMutation({
    mutationFn: (row: ConfigurationOut) => colourCalls.reads(project, row.key, !row.reads),
    onSuccess,
  });
  const takeOut = useMutation({ mutationFn: (key: string) => colourCalls.takeOut(project, key), onSuccess });
  return (
    <BroughtFiles
      title={t.colour}
      help={t.whatTheyAreFor}
      list={t.configurations}
      file={t.file}
      accept=".ocio,.ocioz"
      checking={t.checking}
      add={t.bring}
      send={(chosen, signal) => colourCalls.bring(project, chosen, signal)}
      onBrought={() => void onSuccess()}
      error={reads.error ?? takeOut.error ?? found.error}
      onClose={onClose}
    >
      {(found.data?.configurations ?? []).map((row) => (
        <BroughtFile
          key={row.key}
          name={row.title}
          takeOut={
            row.own && (
              <SignButton name={t.takeOut(row.title)} onClick={() => takeOut.mutate(row.key)}>
                <Trash2 className="size-3.5" />
              </SignButton>
            )
          }
        >
          {row.problem ? (
            <p className="text-error">{row.problem}</p>
          ) : (
            <p className="num text-soft">{t.holds(row.spaces, row.views, row.own)}</p>
          )}
          {row.own && !row.problem && (
            <Tick label={t.reads} help={t.readsHelp} checked={row.reads} onChange={() => reads.mutate(row)} />
          )}
        </BroughtFile>
      ))}
    </BroughtFiles>
  );
}
