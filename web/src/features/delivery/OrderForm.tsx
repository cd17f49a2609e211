/** What to write: comp, format, range, exact rate, folder and name. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, client, take, type CompRow, type DeliveryOut } from "../../api/client";
import { queries } from "../../api/queries";
import { presetOf, suffixes, type DeliveryForm } from "../../domain/deliveryForm";
import { rowsIn } from "../../domain/list";
import { TextField } from "../../ui/Ask";
import { Button, ProblemNote } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { FormChoice } from "./FormChoice";
import { text } from "./strings";

const t = text.OrderForm;

/** What is offered first. */
const FIRST = "png16-straight";

interface Fields {
  first: string;
  last: string;
  rate: string;
  folder: string;
  name: string;
  /** Of the comp's list; empty for the comp as it is. */
  rows: string;
}

interface Props {
  project: number;
  comps: CompRow[];
  /** What a link asks for: a comp, and rows of its list. */
  asked?: { comp: number; rows: string };
}

export function OrderForm({ project, comps, asked }: Props) {
  const cache = useQueryClient();
  const formats = useQuery(queries.deliveryFormats());
  const [comp, setComp] = useState(comps.some((c) => c.id === asked?.comp) ? asked!.comp : comps[0]!.id);
  const details = useQuery(queries.comp(comp));
  const count = details.data?.document.rows.length ?? 0;
  const deliveries = useQuery(queries.deliveries(project));
  const codecs = useQuery(queries.transcodeFormats());
  const [chosen, setChosen] = useState<DeliveryForm>();
  const form = chosen ?? formats.data?.find((f) => f.name === FIRST)?.form;
  const ready = form && presetOf(form, formats.data ?? []);
  const [typed, setTyped] = useState<Partial<Fields>>(asked?.rows ? { rows: asked.rows } : {});
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
    folder: freeFolder(
      base,
      (deliveries.data ?? []).map((d) => d.folder),
    ),
    name: base,
    rows: "",
    ...typed,
  };
  const rows = count > 0 && fields.rows.trim() ? rowsIn(fields.rows, count) : [];
  // rows of one name would be written over each other
  const name = rows?.length && !fields.name.includes("{") ? `${fields.name}_{row}` : fields.name;
  const codec = codecs.data?.find((c) => c.name === form?.codec);
  const order = useMutation({
    mutationFn: async (lossAccepted: boolean): Promise<void> => {
      const params = { path: { project_id: project } };
      const body = {
        comp,
        ...(ready ? { format: ready.name } : { form }),
        first: Number(fields.first),
        last: Number(fields.last),
        rate: fields.rate,
        folder: fields.folder,
        name,
        loss_accepted: lossAccepted,
      };
      if (rows?.length)
        await take<DeliveryOut[]>(
          client.POST("/api/projects/{project_id}/deliveries/rows", { params, body: { ...body, rows } }),
        );
      else await take<DeliveryOut>(client.POST("/api/projects/{project_id}/deliveries", { params, body }));
    },
    onSuccess: () => {
      // what was written is never written over: the next order goes to the next version
      setTyped((now) => ({ ...now, folder: undefined }));
      return cache.invalidateQueries({ queryKey: ["jobs", project] });
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
      <Row label={t.comp}>
        <Choose
          name={t.comp}
          value={String(comp)}
          options={comps.map((c) => ({ value: String(c.id), label: c.name }))}
          onChange={(value) => {
            setComp(Number(value));
            setTyped({});
          }}
        />
      </Row>
      {form && <FormChoice formats={formats.data ?? []} form={form} onForm={setChosen} />}
      <div className="grid grid-cols-3 gap-2">
        <TextField label={t.firstFrame} {...field("first")} />
        <TextField label={t.lastFrame} {...field("last")} />
        <TextField label={t.frameRateFps} {...field("rate")} />
      </div>
      {count > 0 && (
        <TextField
          label={t.rowsOfTheList}
          {...field("rows")}
          placeholder={t.noneTheCompAsItIs}
          help={rows === null ? t.writeRows(count) : rows.length > 0 ? t.deliveriesOf(rows.length) : ""}
        />
      )}
      <TextField label={t.folder} {...field("folder")} help={t.aFolderAmongTheProjects} />
      <TextField
        label={t.fileName}
        {...field("name")}
        help={
          form && codec
            ? suffixes(form)
                .map((suffix) => `${name}${suffix}${codec.kind === "movie" ? "" : ".0001"}${codec.ending}`)
                .join(", ")
            : ""
        }
      />
      {order.error && <ProblemNote problem={asProblem(order.error)} />}
      {order.error && asProblem(order.error).code === "would-lose" && (
        <Button disabled={order.isPending} onClick={() => order.mutate(true)} className="w-full">
          {t.deliverItWithoutThatLight}
        </Button>
      )}
      <Button
        kind="main"
        type="submit"
        disabled={order.isPending || !document || !form || rows === null}
        className="w-full"
      >
        {order.isPending ? t.lookingAtThreeFrames : t.deliver}
      </Button>
    </form>
  );
}

/** A folder that no delivery has gone to: the next version of the comp's own. */
export function freeFolder(base: string, taken: string[]): string {
  const versions = taken.flatMap((path) => {
    const [folder, version] = path.split("/v");
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
