/** A control that takes a dropped file: it is imported, and used there as soon as it can be. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState, type DragEvent, type ReactNode } from "react";
import { useParams } from "react-router";
import type { ElementOut } from "../api/client";
import { filesOfDrop } from "../api/importFiles";
import { queries } from "../api/queries";
import { Button, ProblemNote } from "../ui/basics";
import { useImporting } from "./importing";
import { text } from "./strings";

const t = text.FileDrop;

interface Props {
  onArrived: (element: ElementOut) => void;
  children: ReactNode;
}

export function FileDrop({ onArrived, children }: Props) {
  const project = Number(useParams()["project"]);
  const bring = useImporting((s) => s.bring);
  const cache = useQueryClient();
  const elements = useQuery(queries.elements(project));
  const [over, setOver] = useState(false);
  const [awaited, setAwaited] = useState<{ id: number; name: string; others: number } | null>(null);
  const arrived = awaited && elements.data?.find((e) => e.id === awaited.id);
  const used = useRef<number | null>(null);

  useEffect(() => {
    if (arrived?.state !== "ready" || used.current === arrived.id) return;
    used.current = arrived.id;
    onArrived(arrived);
  }, [arrived, onArrived]);

  function enter(event: DragEvent) {
    if (!event.dataTransfer.types.includes("Files")) return;
    // the project's own drop leaves alone what is taken here
    event.preventDefault();
    setOver(true);
  }

  async function drop(event: DragEvent) {
    if (!event.dataTransfer.types.includes("Files")) return;
    event.preventDefault();
    setOver(false);
    setAwaited(null);
    const files = await filesOfDrop(event.dataTransfer);
    const [first, ...others] = await bring(project, files);
    if (!first) return;
    // known before the list is asked for again
    cache.setQueryData<ElementOut[]>(queries.elements(project).queryKey, (rows = []) => [
      ...rows.filter((e) => e.id !== first.id),
      first,
    ]);
    if (first.state === "ready") {
      used.current = first.id;
      onArrived(first);
    }
    setAwaited({ id: first.id, name: first.name, others: others.length });
  }

  return (
    <div
      className={`relative min-w-0 ${over ? "rounded-md ring-2 ring-accent" : ""}`}
      onDragOver={enter}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => void drop(event)}
    >
      {children}
      {over && (
        <p
          role="status"
          className="pointer-events-none absolute inset-x-0 top-full z-30 rounded-md border border-accent bg-accent-soft px-2 py-1 text-accent"
        >
          {t.letGo}
        </p>
      )}
      {awaited && (awaited.others > 0 || !arrived || arrived.state === "arriving") && (
        <p role="status" className="text-soft [overflow-wrap:anywhere]">
          {arrived?.state === "ready" ? t.alsoImported(awaited.others) : t.isRead(awaited.name)}
        </p>
      )}
      {arrived?.problem && (
        <ProblemNote problem={arrived.problem}>
          <Button onClick={() => setAwaited(null)}>{t.close}</Button>
        </ProblemNote>
      )}
    </div>
  );
}
