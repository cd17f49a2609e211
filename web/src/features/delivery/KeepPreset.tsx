/** Keeping an order's form under a name, for the project or for oneself. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem } from "../../api/client";
import { orderCalls, type DeliveryPreset } from "../../api/orders";
import type { OrderDraft } from "../../domain/order";
import { Ask, TextField } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { Segments } from "../../ui/Segments";
import { PURPOSES, text } from "./strings";

const t = text.KeepPreset;

export function KeepPreset({ project, draft }: { project: number; draft: OrderDraft }) {
  const cache = useQueryClient();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [purpose, setPurpose] = useState<DeliveryPreset["purpose"]>("editor");
  const [whose, setWhose] = useState<"project" | "own">("project");
  const keep = useMutation({
    mutationFn: () =>
      orderCalls.keep(project, {
        name,
        own: whose === "own",
        purpose,
        form: draft.forms[0]!,
        take: draft.take,
        server: draft.server,
        folder: draft.folder,
        file_name: draft.name,
      }),
    onSuccess: () => {
      setOpen(false);
      setName("");
      return cache.invalidateQueries({ queryKey: ["jobs", project, "delivery-presets"] });
    },
  });
  return (
    <>
      <Button disabled={draft.forms.length !== 1} onClick={() => setOpen(true)}>
        {t.keepAsPreset}
      </Button>
      <Ask title={t.keepThisForm} open={open} onClose={() => setOpen(false)}>
        <form
          className="space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            // the dialog stands inside the order's own form
            event.stopPropagation();
            keep.mutate();
          }}
        >
          <TextField label={t.name} value={name} onChange={setName} autoFocus help={t.whatIsKept} />
          <div>
            <span className="mb-0.5 block text-soft">{t.whatItIsFor}</span>
            <Segments name={t.whatItIsFor} value={purpose} choices={PURPOSE_CHOICES} onChange={setPurpose} />
          </div>
          <div>
            <span className="mb-0.5 block text-soft">{t.whoseItIs}</span>
            <Segments
              name={t.whoseItIs}
              value={whose}
              choices={[
                { value: "project", label: t.theProjects },
                { value: "own", label: t.myOwn, tip: t.myOwnTip },
              ]}
              onChange={setWhose}
            />
          </div>
          {keep.error && <ProblemNote problem={asProblem(keep.error)} />}
          <Button kind="main" type="submit" disabled={!name.trim() || keep.isPending}>
            {t.keep}
          </Button>
        </form>
      </Ask>
    </>
  );
}

const PURPOSE_CHOICES = (Object.keys(PURPOSES) as DeliveryPreset["purpose"][]).map((value) => ({
  value,
  label: PURPOSES[value],
}));
