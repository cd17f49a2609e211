/** The rows: a picture and a cell for every slot, with what is wrong in each. */
import { Eye, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { asProblem, type Problem } from "../../../api/client";
import { compCalls, type CellProblem, type SlotOut } from "../../../api/comps";
import { documentOf } from "../../../domain/comp";
import { columnsOf, withCell, withRows } from "../../../domain/list";
import { Button, ProblemNote, SignButton } from "../../../ui/basics";
import { useDesk } from "../deskState";
import type { DocumentStore } from "../documentStore";
import { text } from "../strings";
import { PasteRows } from "./PasteRows";

const t = text.RowsTable;

/** Rows that are shown at once; more are asked for. */
const AT_ONCE = 60;

interface Props {
  store: DocumentStore;
  comp: number;
  project: number;
  /** What a cell can name. */
  names: string[];
  slots: SlotOut[];
  problems: CellProblem[];
  revision: number | null;
}

export function RowsTable(props: Props) {
  const { store, comp, project, names, problems } = props;
  const document = store((s) => s.document);
  const [shown, setShown] = useState(AT_ONCE);
  const [problem, setProblem] = useState<Problem | null>(null);
  const set = useDesk((d) => d.set);
  const { commit } = store.getState();
  const columns = columnsOf(document);
  const wrongColumns = problems.filter((p) => p.row === 0);
  const wrong = new Set(problems.filter((p) => p.row > 0).map((p) => p.row)).size;

  const open = async (number: number) => {
    setProblem(null);
    try {
      const filled = documentOf(await compCalls.fillRow(comp, store.getState().document, number));
      commit((d) => ({ ...d, layers: filled.layers }), t.rowInTheComp(number));
      set({ list: false });
    } catch (error) {
      setProblem(asProblem(error));
    }
  };

  return (
    <section aria-label={t.rows} className="flex min-w-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-3 py-2">
        <Button onClick={() => commit((d) => withRows(d, [...d.rows, {}]), t.anotherRow)}>
          <Plus className="size-3.5" />
          {t.addARow}
        </Button>
        <PasteRows comp={comp} onRows={(rows) => commit((d) => withRows(d, rows), t.anotherList)} />
        <span role="status" className={wrong ? "text-error" : "text-soft"}>
          {t.count(document.rows.length)}
          {wrong > 0 && `, ${t.wrong(wrong)}`}
        </span>
        <Link
          className="ml-auto rounded-md border border-line bg-card px-2.5 py-1 font-medium hover:bg-well"
          to={`/projects/${project}/delivery?comp=${comp}&rows=1-${document.rows.length}`}
        >
          {t.deliverRows}
        </Link>
      </div>
      {problem && <ProblemNote problem={problem} />}
      {wrongColumns.map((p) => (
        <ProblemNote key={p.column} problem={{ code: "name-unknown", where: p.column, ...p }} />
      ))}
      <datalist id="list-names">
        {[...new Set(names)].map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <div className="min-h-0 flex-1 overflow-auto">
        {document.rows.length === 0 ? (
          <p className="p-6 text-center text-soft">{columns.length ? t.noRows : t.noSlots}</p>
        ) : (
          <table className="w-full border-collapse">
            <thead className="sticky top-0 z-10 bg-panel text-left">
              <tr>
                <th className="w-10 px-3 py-1 font-medium">{t.row}</th>
                <th className="w-44 py-1 font-medium">{t.picture}</th>
                {columns.map((name) => (
                  <th key={name} className="px-2 py-1 font-medium">
                    {name}
                  </th>
                ))}
                <th className="w-20" />
              </tr>
            </thead>
            <tbody>
              {document.rows.slice(0, shown).map((row, index) => (
                <OneRow key={index} {...props} index={index} row={row} columns={columns} onOpen={open} />
              ))}
            </tbody>
          </table>
        )}
        {document.rows.length > shown && (
          <div className="p-3 text-center">
            <Button onClick={() => setShown(shown + AT_ONCE)}>
              {t.more(Math.min(AT_ONCE, document.rows.length - shown))}
            </Button>
          </div>
        )}
      </div>
    </section>
  );
}

interface RowProps extends Props {
  index: number;
  row: Record<string, string>;
  columns: string[];
  onOpen: (number: number) => Promise<void>;
}

function OneRow({ store, comp, slots, problems, revision, index, row, columns, onOpen }: RowProps) {
  const number = index + 1;
  const wrong = problems.filter((p) => p.row === number);
  const { commit } = store.getState();
  return (
    <tr className="border-t border-line align-top">
      <td className="num px-3 py-2 text-soft">{number}</td>
      <td className="py-2">
        <RowPicture comp={comp} number={number} revision={revision} wrong={wrong.length > 0} />
      </td>
      {columns.map((name) => {
        const slot = slots.find((s) => s.name === name);
        const told = wrong.find((p) => p.column === name);
        return (
          <td key={name} className="px-2 py-2">
            <Cell
              key={row[name] ?? ""}
              label={t.cellOf(name, number)}
              cell={row[name] ?? ""}
              rest={slot?.kind === "picture" ? t.asItIs : (slot?.default ?? "")}
              named={slot?.kind === "picture"}
              problem={told}
              onChange={(cell) => commit((d) => withCell(d, index, name, cell), t.cellOf(name, number))}
            />
          </td>
        );
      })}
      <td className="py-2 pr-2 text-right whitespace-nowrap">
        <SignButton name={t.openInTheComp(number)} onClick={() => void onOpen(number)}>
          <Eye className="size-4" />
        </SignButton>
        <SignButton
          name={t.takeRowOut(number)}
          onClick={() =>
            commit(
              (d) =>
                withRows(
                  d,
                  d.rows.filter((_, i) => i !== index),
                ),
              t.takeRowOut(number),
            )
          }
        >
          <Trash2 className="size-4" />
        </SignButton>
      </td>
    </tr>
  );
}

function RowPicture(props: { comp: number; number: number; revision: number | null; wrong: boolean }) {
  const { comp, number, revision, wrong } = props;
  const [last, setLast] = useState(revision);
  if (revision !== null && revision !== last) setLast(revision);
  if (wrong)
    return (
      <span className="grid h-[5.0625rem] w-36 place-items-center rounded border border-error text-soft">
        {t.noPicture}
      </span>
    );
  return (
    <img
      loading="lazy"
      alt={t.pictureOf(number)}
      src={`/api/comps/${comp}/card?row=${number}&revision=${last ?? 0}`}
      className="h-[5.0625rem] w-36 rounded border border-line bg-well object-contain"
    />
  );
}

interface CellProps {
  label: string;
  cell: string;
  /** What an empty cell stands for. */
  rest: string;
  named: boolean;
  problem: CellProblem | undefined;
  onChange: (cell: string) => void;
}

function Cell({ label, cell, rest, named, problem, onChange }: CellProps) {
  const [typed, setTyped] = useState(cell);
  return (
    <div>
      <input
        aria-label={label}
        aria-invalid={!!problem}
        placeholder={rest}
        title={typed}
        {...(named ? { list: "list-names" } : {})}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => typed.trim() !== cell && onChange(typed.trim())}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="h-8 w-full min-w-24 rounded-md border border-line bg-card px-2 placeholder:text-soft aria-invalid:border-error"
      />
      {problem && (
        <p role="alert" className="mt-0.5 text-error">
          {problem.message} <span className="text-soft">{problem.advice}</span>
        </p>
      )}
    </div>
  );
}
