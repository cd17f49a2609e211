/** Whether a file holds colour or data by itself; of a UV pass with too few bits, a picture of why. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { HOLDS, holdsInWords } from "../../domain/holds";
import { stampOf } from "../../domain/stampOf";
import { ProblemNote } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { text } from "./strings";

const t = text.HoldsField;

export function HoldsField({ element }: { element: ElementOut }) {
  const hold = useMutation({ mutationFn: (kind: string) => elementCalls.holds(element.id, kind) });
  return (
    <>
      <div className="mt-1.5 flex items-center gap-2">
        <span className="w-20 text-soft">{t.holds}</span>
        <Choose
          name={t.whatTheFileHolds}
          value={element.holds || "colour"}
          options={HOLDS}
          onChange={(kind) => hold.mutate(kind === "colour" ? "" : kind)}
        />
      </div>
      {element.holds && (
        <p className="mt-1 text-soft">
          {element.holds === element.facts?.holds && `${t.toldBy(element.facts.holds_by)} `}
          {t.dataStaysAsItIs}
        </p>
      )}
      {hold.error && <ProblemNote problem={asProblem(hold.error)} />}
      {element.holds === "uv" && (element.facts?.bit_depth ?? 16) < 16 && <Blocks element={element} />}
    </>
  );
}

function Blocks({ element }: { element: ElementOut }) {
  const stamp = stampOf(element);
  const coarse = useQuery({
    queryKey: ["coarse-uv", element.id, stamp],
    queryFn: () => elementCalls.coarseUV(element.id),
  });
  const block = coarse.data?.block;
  if (!block) return null;
  const bits = element.facts?.bit_depth ?? 8;
  return (
    <figure className="mt-2 rounded-md border border-warn p-2">
      <img
        src={`/api/elements/${element.id}/coarse-uv/picture?v=${encodeURIComponent(stamp)}`}
        alt={t.ringsInBlocksBesideSmooth}
        className="w-full rounded"
      />
      <figcaption className="mt-1">{t.blocks(bits, block.toFixed(1))}</figcaption>
    </figure>
  );
}

/** In a few words, for a card. */
export function heldInWords(element: ElementOut): string {
  const kind = holdsInWords(element.holds);
  return element.holds === "data" ? t.data : t.dataOf(kind);
}
