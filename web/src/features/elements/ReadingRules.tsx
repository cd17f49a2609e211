/** A reading kept as the project's default for what is alike. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { queries } from "../../api/queries";
import { counted } from "../../domain/words";
import { Button, ProblemNote, SignButton } from "../../ui/basics";
import { Ask, TextField } from "../../ui/Ask";
import { Tick } from "../../ui/Tick";
import { useRefresh } from "./useRefresh";

export function RuleButton({ element, project }: { element: ElementOut; project: number }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Read others so …</Button>
      {open && <RuleAsk element={element} project={project} onClose={() => setOpen(false)} />}
    </>
  );
}

/** Names that are alike but for their numbers: kite_04.####.png gives kite_*. */
export function patternOf(name: string): string {
  const stem = name.replace(/\.[A-Za-z0-9]+$/, "").replace(/[.\-_ ]*#+$/, "");
  return `${stem.replace(/[\d]+.*$/, "")}*`;
}

function RuleAsk({
  element,
  project,
  onClose,
}: {
  element: ElementOut;
  project: number;
  onClose: () => void;
}) {
  const rules = useQuery(queries.rules(project));
  const facts = element.facts;
  const [byFormat, setByFormat] = useState(true);
  const [byCodec, setByCodec] = useState(false);
  const [folder, setFolder] = useState("");
  const [pattern, setPattern] = useState(patternOf(element.name));
  const [now, setNow] = useState(true);
  const again = useRefresh(project);
  const keep = useMutation({
    mutationFn: () =>
      elementCalls.rule(project, {
        format: byFormat ? (facts?.format ?? "") : "",
        codec: byCodec ? (facts?.codec ?? "") : "",
        folder,
        pattern,
        reading: element.reading,
        encoding: element.encoding,
        apply_now: now,
      }),
    onSuccess: again,
  });
  const drop = useMutation({ mutationFn: elementCalls.dropRule, onSuccess: again });
  return (
    <Ask title={`Read others ${element.reading_words}`} open onClose={onClose}>
      <p className="mb-2 text-soft">
        Files imported from now on that match all of this are read so, without asking. The first rule that
        fits counts.
      </p>
      <div className="space-y-2">
        <Tick
          label={`files of the format ${facts?.format ?? ""}`}
          checked={byFormat}
          onChange={setByFormat}
        />
        {facts?.codec && (
          <Tick label={`of the codec ${facts.codec}`} checked={byCodec} onChange={setByCodec} />
        )}
        <TextField
          label="whose name is like"
          value={pattern}
          onChange={setPattern}
          help="* stands for anything"
        />
        <TextField
          label="from a folder with this in its name"
          value={folder}
          onChange={setFolder}
          placeholder={element.folder || "any folder"}
        />
        <Tick label="Also those that are here already" checked={now} onChange={setNow} />
      </div>
      {(keep.error ?? drop.error) && <ProblemNote problem={asProblem(keep.error ?? drop.error)} />}
      {rules.data && rules.data.length > 0 && (
        <div className="mt-3 border-t border-line pt-2">
          <h3 className="font-semibold">Rules of the project</h3>
          {rules.data.map((rule) => (
            <div key={rule.id} className="flex items-start gap-2">
              <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">
                {[rule.format, rule.codec, rule.pattern, rule.folder && `folder ${rule.folder}`]
                  .filter(Boolean)
                  .join(", ")}
                : {rule.reading_words}{" "}
                <span className="text-soft">({counted(rule.fitting, "element")} here)</span>
              </span>
              <SignButton name="Drop this rule" onClick={() => drop.mutate(rule.id)}>
                <X className="size-3.5" />
              </SignButton>
            </div>
          ))}
        </div>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Close</Button>
        <Button kind="main" disabled={keep.isPending} onClick={() => keep.mutate()}>
          Keep this rule
        </Button>
      </div>
    </Ask>
  );
}
