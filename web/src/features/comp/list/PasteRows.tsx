/** A table pasted, or opened from a CSV file, in place of the rows that are there. */
import { ClipboardPaste } from "lucide-react";
import { useState } from "react";
import { asProblem, type Problem } from "../../../api/client";
import { compCalls } from "../../../api/comps";
import type { Row } from "../../../domain/list";
import { Ask } from "../../../ui/Ask";
import { Button, ProblemNote } from "../../../ui/basics";
import { text } from "../strings";

const t = text.PasteRows;

export function PasteRows({ comp, onRows }: { comp: number; onRows: (rows: Row[]) => void }) {
  const [open, setOpen] = useState(false);
  const [table, setTable] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const take = async () => {
    setProblem(null);
    try {
      onRows(await compCalls.readList(comp, table));
      setOpen(false);
    } catch (error) {
      setProblem(asProblem(error));
    }
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <ClipboardPaste className="size-3.5" />
        {t.pasteOrOpen}
      </Button>
      <Ask title={t.aTable} open={open} onClose={() => setOpen(false)}>
        <p className="mb-2 text-soft">{t.itsFirstLine}</p>
        <textarea
          aria-label={t.table}
          rows={10}
          value={table}
          placeholder={"artwork,light\ndusk.png,0.5"}
          onChange={(event) => setTable(event.target.value)}
          className="w-full rounded-md border border-line bg-card p-2 font-mono placeholder:text-soft"
        />
        <label className="my-2 block">
          <span className="mr-2 text-soft">{t.orAFile}</span>
          <input
            type="file"
            accept=".csv,.tsv,.txt,text/csv"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void file.text().then(setTable);
            }}
          />
        </label>
        {problem && <ProblemNote problem={problem} />}
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={() => setOpen(false)}>{t.cancel}</Button>
          <Button kind="main" disabled={!table.trim()} onClick={() => void take()}>
            {t.replaceTheRows}
          </Button>
        </div>
      </Ask>
    </>
  );
}
