/** Another name for an element, here; its files keep theirs. */
import { useMutation } from "@tanstack/react-query";
import { Pencil } from "lucide-react";
import { useState } from "react";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { Ask, TextField } from "../../ui/Ask";
import { Button, ProblemNote, SignButton } from "../../ui/basics";
import { text } from "./strings";
import { useRefresh } from "./useRefresh";

const t = text.RenameElement;

export function RenameElement({ element, project }: { element: ElementOut; project: number }) {
  const refresh = useRefresh(project);
  const [name, setName] = useState<string | null>(null);
  const rename = useMutation({
    mutationFn: (next: string) => elementCalls.rename(element.id, next),
    onSuccess: async () => {
      await refresh();
      setName(null);
    },
  });
  const close = () => {
    setName(null);
    rename.reset();
  };
  return (
    <>
      <SignButton name={t.rename} onClick={() => setName(element.name)}>
        <Pencil className="size-4" />
      </SignButton>
      <Ask title={t.renameThis(element.name)} open={name !== null} onClose={close}>
        <form
          className="space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            rename.mutate(name ?? "");
          }}
        >
          <TextField
            label={t.name}
            value={name ?? ""}
            onChange={setName}
            help={t.filesKeepTheirs}
            autoFocus
          />
          {rename.error && <ProblemNote problem={asProblem(rename.error)} />}
          <div className="flex justify-end gap-2">
            <Button onClick={close}>{t.cancel}</Button>
            <Button kind="main" type="submit" disabled={rename.isPending}>
              {t.renameIt}
            </Button>
          </div>
        </form>
      </Ask>
    </>
  );
}
