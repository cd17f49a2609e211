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
import { text } from "./strings";

const t = text.ReadingRules;

export function RuleButton({ element, project }: { element: ElementOut; project: number }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>{t.readOthersSo}</Button>
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
    <Ask title={t.readOthers(element.reading_words)} open onClose={onClose}>
      <p className="mb-2 text-soft">{t.filesImportedFromNowOn}</p>
      <div className="space-y-2">
        <Tick label={t.filesOfTheFormat(facts?.format ?? "")} checked={byFormat} onChange={setByFormat} />
        {facts?.codec && <Tick label={t.ofTheCodec(facts.codec)} checked={byCodec} onChange={setByCodec} />}
        <TextField
          label={t.whoseNameIsLike}
          value={pattern}
          onChange={setPattern}
          help={t.standsForAnything}
        />
        <TextField
          label={t.fromAFolderWithThis}
          value={folder}
          onChange={setFolder}
          placeholder={element.folder || t.anyFolder}
        />
        <Tick label={t.alsoThoseThatAreHere} checked={now} onChange={setNow} />
      </div>
      {(keep.error ?? drop.error) && <ProblemNote problem={asProblem(keep.error ?? drop.error)} />}
      {rules.data && rules.data.length > 0 && (
        <div className="mt-3 border-t border-line pt-2">
          <h3 className="font-semibold">{t.rulesOfTheProject}</h3>
          {rules.data.map((rule) => (
            <div key={rule.id} className="flex items-start gap-2">
              <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">
                {[rule.format, rule.codec, rule.pattern, rule.folder && t.folder(rule.folder)]
                  .filter(Boolean)
                  .join(", ")}
                : {rule.reading_words}{" "}
                <span className="text-soft">
                  ({counted(rule.fitting, "element")}
                  {t.here}
                </span>
              </span>
              <SignButton name={t.dropThisRule} onClick={() => drop.mutate(rule.id)}>
                <X className="size-3.5" />
              </SignButton>
            </div>
          ))}
        </div>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>{t.close}</Button>
        <Button kind="main" disabled={keep.isPending} onClick={() => keep.mutate()}>
          {t.keepThisRule}
        </Button>
      </div>
    </Ask>
  );
}
