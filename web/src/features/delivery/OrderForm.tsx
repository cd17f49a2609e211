/** What to write: comp, form, range, exact rate, place and name. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, client, take, type CompRow, type DeliveryOut } from "../../api/client";
import { queries } from "../../api/queries";
import { TextField } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { Choose } from "../../ui/Choose";

interface Fields {
  first: string;
  last: string;
  rate: string;
  place: string;
  name: string;
}

export function OrderForm({ project, comps }: { project: number; comps: CompRow[] }) {
  const cache = useQueryClient();
  const forms = useQuery(queries.forms());
  const [comp, setComp] = useState(comps[0]!.id);
  const details = useQuery(queries.comp(comp));
  const deliveries = useQuery(queries.deliveries(project));
  const [formName, setFormName] = useState("png16-straight");
  const [typed, setTyped] = useState<Partial<Fields>>({});
  const document = details.data?.document;
  const base =
    (details.data?.name ?? "comp")
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, "_")
      .replace(/^_|_$/g, "") || "comp";
  const fields: Fields = {
    first: String(document?.first ?? 1),
    last: String(document?.last ?? 1),
    rate: document?.rate ?? "",
    place: freePlace(
      base,
      (deliveries.data ?? []).map((d) => d.place),
    ),
    name: base,
    ...typed,
  };
  const form = forms.data?.find((f) => f.name === formName);
  const order = useMutation({
    mutationFn: (lossAccepted: boolean) =>
      take<DeliveryOut>(
        client.POST("/api/projects/{project_id}/deliveries", {
          params: { path: { project_id: project } },
          body: {
            comp,
            form: formName,
            first: Number(fields.first),
            last: Number(fields.last),
            rate: fields.rate,
            place: fields.place,
            name: fields.name,
            loss_accepted: lossAccepted,
          },
        }),
      ),
    onSuccess: () => {
      // what was written is never written over: the next order goes to the next version
      setTyped((now) => ({ ...now, place: undefined }));
      return cache.invalidateQueries({ queryKey: ["deliveries", project] });
    },
  });
  const field = (key: keyof Fields) => ({
    value: fields[key],
    onChange: (value: string) => setTyped({ ...typed, [key]: value }),
  });
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        order.mutate(false);
      }}
    >
      <Row label="Comp">
        <Choose
          name="Comp"
          value={String(comp)}
          options={comps.map((c) => ({ value: String(c.id), label: c.name }))}
          onChange={(value) => {
            setComp(Number(value));
            setTyped({});
          }}
        />
      </Row>
      <fieldset>
        <legend className="mb-0.5 text-soft">Format</legend>
        <div className="space-y-1">
          {forms.data?.map((f) => (
            <label
              key={f.name}
              className="flex gap-2 rounded-md border border-line bg-card px-2.5 py-1.5 has-checked:border-accent has-checked:bg-accent-soft"
            >
              <input
                type="radio"
                name="form"
                value={f.name}
                checked={formName === f.name}
                onChange={() => setFormName(f.name)}
                className="mt-0.5 accent-[var(--accent)]"
              />
              <span>
                <span className="block font-medium">{f.title}</span>
                {formName === f.name && <span className="block text-soft">{f.help}</span>}
              </span>
            </label>
          ))}
        </div>
      </fieldset>
      <div className="grid grid-cols-3 gap-2">
        <TextField label="First frame" {...field("first")} />
        <TextField label="Last frame" {...field("last")} />
        <TextField label="Frame rate (fps)" {...field("rate")} />
      </div>
      <TextField
        label="Folder"
        {...field("place")}
        help="A folder among the project’s deliveries. Nothing there is ever written over."
      />
      <TextField
        label="File name"
        {...field("name")}
        help={form ? `${fields.name}${form.kind === "movie" ? "" : ".0001"}${form.ending}` : ""}
      />
      {order.error && <ProblemNote problem={asProblem(order.error)} />}
      {order.error && asProblem(order.error).code === "would-lose" && (
        <Button disabled={order.isPending} onClick={() => order.mutate(true)} className="w-full">
          Deliver it without that light
        </Button>
      )}
      <Button kind="main" type="submit" disabled={order.isPending || !document} className="w-full">
        {order.isPending ? "Looking at three frames …" : "Deliver"}
      </Button>
    </form>
  );
}

/** A folder that no delivery has gone to: the next version of the comp's own. */
export function freePlace(base: string, taken: string[]): string {
  const versions = taken.flatMap((place) => {
    const [folder, version] = place.split("/v");
    return folder === base && version && /^\d+$/.test(version) ? [Number(version)] : [];
  });
  return `${base}/v${Math.max(0, ...versions) + 1}`;
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div>
      <span className="mb-0.5 block text-soft">{label}</span>
      <div className="flex">{children}</div>
    </div>
  );
}
