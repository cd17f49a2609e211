/** Frames that give no rate: which one was meant is asked before they are laid in, never assumed. */
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, client, take, type ElementOut } from "../../api/client";
import { rateInWords } from "../../domain/words";
import { Button, ProblemNote } from "../../ui/basics";
import { Ask, TextField } from "../../ui/Ask";
import { text } from "./strings";

const t = text.AskRate;

interface Props {
  element: ElementOut;
  /** The comp's own, which is proposed. */
  rate: string;
  onClose: () => void;
  onSaid: () => void;
}

export function AskRate({ element, rate, onClose, onSaid }: Props) {
  const [text, setText] = useState("");
  const say = useMutation({
    mutationFn: (said: string) =>
      take(client.POST("/api/elements/reading", { body: { elements: [element.id], rate: said } })),
    onSuccess: onSaid,
  });
  return (
    <Ask title={t.atWhichRateWasMeant(element.name)} open onClose={onClose}>
      <p className="mb-3">{t.itsFilesGiveNone}</p>
      <Button kind="main" disabled={say.isPending} onClick={() => say.mutate(rate)}>
        {t.asThisComp(rateInWords(rate))}
      </Button>
      <form
        className="mt-3 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim()) say.mutate(text.trim());
        }}
      >
        <TextField label={t.orAnotherOne} value={text} onChange={setText} placeholder={t.anotherRate} />
        <Button type="submit" disabled={!text.trim() || say.isPending}>
          {t.thisOne}
        </Button>
      </form>
      {say.error && (
        <div className="mt-2">
          <ProblemNote problem={asProblem(say.error)} />
        </div>
      )}
    </Ask>
  );
}
