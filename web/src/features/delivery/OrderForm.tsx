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
    place: `${base}/v1`,
    name: base,
    ...typed,
  };
  const form = forms.data?.find((f) => f.name === formName);
  const order = useMutation({
    mutationFn: () =>
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
          },
        }),
      ),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["deliveries", project] }),
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
        order.mutate();
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
        <legend className="mb-0.5 text-soft">Form</legend>
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
        <TextField label="Frames a second" {...field("rate")} />
      </div>
      <TextField
        label="Place"
        {...field("place")}
        help="A folder among the project’s deliveries. Nothing there is ever written over."
      />
      <TextField
        label="Name of the files"
        {...field("name")}
        help={form ? `${fields.name}${form.kind === "movie" ? "" : ".0001"}${form.ending}` : ""}
      />
      {order.error && <ProblemNote problem={asProblem(order.error)} />}
      <Button kind="main" type="submit" disabled={order.isPending || !document} className="w-full">
        {order.isPending ? "Ordering …" : "Deliver"}
      </Button>
    </form>
  );
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div>
      <span className="mb-0.5 block text-soft">{label}</span>
      <div className="flex">{children}</div>
    </div>
  );
}
