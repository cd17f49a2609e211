/** A change that was not saved: both sides named, nothing dropped until the person has chosen. */
import { Button, ProblemNote } from "../../ui/basics";
import type { DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.Refused;

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
