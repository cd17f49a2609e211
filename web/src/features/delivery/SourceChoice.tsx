/** What goes out: comps, or elements; of one comp also a layer, or rows of its list. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { CompRow } from "../../api/client";
import { queries } from "../../api/queries";
import { documentOf } from "../../domain/comp";
import type { OrderDraft } from "../../domain/order";
import { walk } from "../../domain/tree";
import { TextField } from "../../ui/Ask";
import { Choose } from "../../ui/Choose";
import { Line } from "../../ui/Line";
import { Segments } from "../../ui/Segments";
import { Tick } from "../../ui/Tick";
import { FileLayers } from "./FileLayers";
import { text } from "./strings";

const t = text.SourceChoice;

/** So many are all seen at once. */
const FEW = 8;

interface Props {
  project: number;
  comps: CompRow[];
  draft: OrderDraft;
  onDraft: (draft: OrderDraft) => void;
  /** Of the typed rows; null where they are none. */
  rows: readonly number[] | null;
}

export function SourceChoice({ project, comps, draft, onDraft, rows }: Props) {
  const elements = useQuery(queries.elements(project));
  const [kind, setKind] = useState<"comps" | "elements">(draft.elements.length ? "elements" : "comps");
  const ready = (elements.data ?? []).filter((e) => e.state === "ready");
  const offered = kind === "comps" ? comps : ready;
  const chosen = kind === "comps" ? draft.comps : draft.elements;
  // layers, frames and rows are of the comp that was chosen
  const choose = (of: typeof kind, numbers: number[]) =>
    onDraft({
      ...draft,
      comps: [],
      elements: [],
      [of]: numbers,
      rows: "",
      take: { ...draft.take, part: "comp", layer: "", frames: "", layers: [] },
    });
  return (
    <fieldset className="space-y-1.5">
      <legend className="mb-0.5 text-soft">{t.whatGoesOut}</legend>
      {ready.length > 0 && (
        <Segments
          name={t.whatGoesOut}
          value={kind}
          choices={[
            { value: "comps", label: t.comps },
            { value: "elements", label: t.elements },
          ]}
          onChange={(next) => {
            setKind(next);
            choose(
              next,
              (next === "comps" ? comps : ready).slice(0, 1).map((row) => row.id),
            );
          }}
        />
      )}
      <PickList key={kind} rows={offered} chosen={chosen} onChoose={(numbers) => choose(kind, numbers)} />
      {draft.comps.length === 1 && (
        <OfComp project={project} comp={draft.comps[0]!} draft={draft} onDraft={onDraft} rows={rows} />
      )}
    </fieldset>
  );
}

interface PickProps {
  rows: readonly { id: number; name: string }[];
  chosen: readonly number[];
  onChoose: (numbers: number[]) => void;
}

function PickList({ rows, chosen, onChoose }: PickProps) {
  const [sought, setSought] = useState("");
  const found = rows.filter((r) => r.name.toLowerCase().includes(sought.toLowerCase()));
  return (
    <div className="rounded-md border border-line bg-card">
      {rows.length > FEW && (
        <input
          type="search"
          aria-label={t.search}
          placeholder={t.search}
          value={sought}
          onChange={(event) => setSought(event.target.value)}
          className="h-7 w-full rounded-t-md border-b border-line bg-card px-2"
        />
      )}
      <div className="max-h-36 overflow-auto px-2 py-1">
        {found.map((row) => (
          <Tick
            key={row.id}
            label={row.name}
            checked={chosen.includes(row.id)}
            onChange={(on) => onChoose(on ? [...chosen, row.id] : chosen.filter((n) => n !== row.id))}
          />
        ))}
        {found.length === 0 && <p className="text-soft">{t.nothingOfThatName}</p>}
      </div>
    </div>
  );
}

function OfComp({
  project,
  comp,
  draft,
  onDraft,
  rows,
}: Pick<Props, "project" | "draft" | "onDraft" | "rows"> & { comp: number }) {
  const details = useQuery(queries.comp(comp));
  const tree = details.data ? documentOf(details.data.document).layers : [];
  const layers = walk(tree);
  const count = details.data?.document.rows.length ?? 0;
  const take = (part: Partial<OrderDraft["take"]>) => onDraft({ ...draft, take: { ...draft.take, ...part } });
  return (
    <>
      {layers.length > 1 && (
        <Line label={t.ofIt}>
          <Segments<OrderDraft["take"]["part"]>
            name={t.ofIt}
            tight
            value={draft.take.part}
            choices={[
              { value: "comp", label: t.all },
              { value: "upto", label: t.upTo, tip: t.upToTip },
              { value: "layer", label: t.alone, tip: t.aloneTip },
            ]}
            onChange={(part) =>
              take({ part, layer: part === "comp" ? "" : draft.take.layer || layers.at(-1)!.id })
            }
          />
        </Line>
      )}
      {draft.take.part !== "comp" && (
        <Line label={t.layer}>
          <Choose
            name={t.layer}
            value={draft.take.layer}
            options={layers.map((l) => ({ value: l.id, label: l.name })).reverse()}
            onChange={(layer) => take({ layer })}
          />
        </Line>
      )}
      <FileLayers project={project} layers={tree} draft={draft} onTake={take} />
      {count > 0 && (
        <TextField
          label={t.rowsOfTheList}
          value={draft.rows}
          onChange={(typed) => onDraft({ ...draft, rows: typed })}
          placeholder={t.noneTheCompAsItIs}
          help={rows === null ? t.writeRows(count) : rows.length > 0 ? t.deliveriesOf(rows.length) : ""}
        />
      )}
    </>
  );
}
