/** Colour, alpha and data that came apart and fit by their names: joined many at a time, after a look. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls, type MatchOut } from "../../api/elements";
import { queries } from "../../api/queries";
import { holdsInWords } from "../../domain/holds";
import { counted } from "../../domain/words";
import { ElementPicture } from "../../parts/ElementPicture";
import { Button, ProblemNote } from "../../ui/basics";
import { Ask } from "../../ui/Ask";
import { useRefresh } from "./useRefresh";
import { text } from "./strings";

const t = text.JoinPairs;

export function JoinPairs({ project, rows }: { project: number; rows: ElementOut[] }) {
  const pairs = useQuery(queries.pairs(project));
  const [open, setOpen] = useState(false);
  const found = pairs.data ?? [];
  if (found.length === 0) return null;
  return (
    <div className="border-b border-line bg-card px-3 py-2">
      <p>
        {counted(found.length, "pair")}
        {t.ofRgbAndAlphaMatch}
      </p>
      <Button className="mt-1" onClick={() => setOpen(true)}>
        {t.lookAndJoin}
      </Button>
      {open && <PairsAsk project={project} rows={rows} pairs={found} onClose={() => setOpen(false)} />}
    </div>
  );
}

interface Props {
  project: number;
  rows: ElementOut[];
  pairs: MatchOut[];
  onClose: () => void;
}

function PairsAsk({ project, rows, pairs, onClose }: Props) {
  const again = useRefresh(project);
  const [left, setLeft] = useState<number[]>([]);
  const wanted = pairs.filter((p) => !p.blocked && !left.includes(p.source));
  const join = useMutation({
    mutationFn: () =>
      elementCalls.join(
        project,
        wanted.map(({ element, source }) => ({ element, source })),
      ),
    onSuccess: async () => {
      await again();
      onClose();
    },
  });
  const row = (id: number) => rows.find((r) => r.id === id);
  return (
    <Ask title={t.joinRgbAndAlpha} open onClose={onClose}>
      <ul className="space-y-2">
        {pairs.map((p) => {
          const [element, source] = [row(p.element), row(p.source)];
          return (
            <li key={p.source} className="flex items-start gap-2">
              <input
                type="checkbox"
                aria-label={t.joinWith(source?.name ?? "", element?.name ?? "")}
                disabled={p.blocked}
                checked={!p.blocked && !left.includes(p.source)}
                onChange={(event) =>
                  setLeft(event.target.checked ? left.filter((l) => l !== p.source) : [...left, p.source])
                }
                className="mt-4 size-3.5 shrink-0 accent-[var(--accent)]"
              />
              {element && <ElementPicture element={element} className="h-12 w-20 shrink-0 rounded" />}
              {source && <ElementPicture element={source} className="h-12 w-20 shrink-0 rounded" />}
              <span className="min-w-0">
                <span className="block [overflow-wrap:anywhere]">{element?.name}</span>
                <span className="block [overflow-wrap:anywhere] text-soft">
                  {t.holdsFrom(
                    p.holds === "alpha" ? t.alpha : holdsInWords(p.holds),
                    p.names,
                    source?.name ?? "",
                  )}
                </span>
                {p.remarks.map((r) => (
                  <span key={r} className={`block ${p.blocked ? "text-error" : "text-warn"}`}>
                    {r}
                  </span>
                ))}
              </span>
            </li>
          );
        })}
      </ul>
      {join.error && <ProblemNote problem={asProblem(join.error)} />}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>{t.leaveThem}</Button>
        <Button kind="main" disabled={wanted.length === 0 || join.isPending} onClick={() => join.mutate()}>
          {t.join}
          {counted(wanted.length, "pair")}
        </Button>
      </div>
    </Ask>
  );
}
