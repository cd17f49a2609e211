/** A change that was not saved: both sides named, nothing dropped until the person has chosen. */
import { Lock } from "lucide-react";
import { layerOf } from "../../domain/comp";
import { lockedOrFree } from "../../domain/locks";
import { Button, ProblemNote } from "../../ui/basics";
import type { DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.Refused;

/** A change of a locked layer that was not made, and the way to make it. */
export function LockedNote({ store }: { store: DocumentStore }) {
  const { locked, document, commit } = store();
  const layer = layerOf(document, locked);
  if (!layer) return null;
  return (
    <div role="status" className="flex items-center gap-2 border-t border-line bg-card px-3 py-1.5">
      <Lock className="size-4 shrink-0 text-soft" />
      <span className="min-w-0 flex-1 truncate">{t.isLocked(layer.name)}</span>
      <Button onClick={() => commit((d) => lockedOrFree(d, [layer.id]), t.unlockWhat(layer.name))}>
        {t.unlock}
      </Button>
      <Button onClick={() => store.setState({ locked: null })}>{t.keepLocked}</Button>
    </div>
  );
}

export function Refused({ store }: { store: DocumentStore }) {
  const { problem, insist, takeNewest } = store();
  if (!problem) return null;
  const stale = problem.code === "stale";
  return (
    <div className="border-t border-line p-2">
      <ProblemNote problem={problem}>
        <Button onClick={() => void takeNewest()}>{stale ? t.showTheNewestDropMine : t.dropMyChange}</Button>
        <Button onClick={() => void insist()}>{stale ? t.saveMineOverIt : t.tryAgain}</Button>
      </ProblemNote>
    </div>
  );
}
