/** A button that asks for a name, and keeps something under it. */
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem } from "../../api/client";
import { Ask, TextField } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { text } from "./strings";

const t = text.NameIt;

interface NameProps {
  button: string;
  help: string;
  work: (name: string) => Promise<unknown>;
  onDone: () => Promise<void>;
}

export function NameIt({ button, help, work, onDone }: NameProps) {
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
          <TextField label={t.name} value={name} onChange={setName} autoFocus />
          {save.error && <ProblemNote problem={asProblem(save.error)} />}
          <div className="flex justify-end gap-2">
            <Button onClick={() => setOpen(false)}>{t.cancel}</Button>
            <Button kind="main" type="submit" disabled={!name.trim() || save.isPending}>
              {t.keepIt}
            </Button>
          </div>
        </form>
      </Ask>
    </>
  );
}
