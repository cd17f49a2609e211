/** The list of elements; the reading stands on every card. Several can be marked for one change. */
import type { ElementOut } from "../../api/client";
import { ElementPicture } from "../../parts/ElementPicture";
import { doubted, needsConfirming } from "../../domain/attention";
import { FileName } from "../../ui/FileName";
import { LongList } from "../../ui/LongList";
import { heldInWords } from "./HoldsField";
import { carry } from "./Labels";
import { text } from "./strings";

const t = text.ElementList;

interface Props {
  /** Those that are found, and all that there are. */
  rows: ElementOut[];
  all: ElementOut[];
  chosen: number;
  marked: number[];
  onMark: (ids: number[]) => void;
  onChoose: (id: number) => void;
}

export function ElementList({ rows, all, chosen, marked, onMark, onChoose }: Props) {
  const toggle = (id: number) =>
    onMark(marked.includes(id) ? marked.filter((m) => m !== id) : [...marked, id]);
  const carriers = new Map(all.flatMap((row) => row.parts.map((part) => [part.element, row] as const)));
  return (
    <>
      {marked.length > 0 && (
        <div className="flex items-center justify-between border-b border-line bg-accent-soft px-3 py-1 text-accent">
          <span>{t.marked(marked.length)}</span>
          <span className="flex gap-3">
            <button type="button" className="underline" onClick={() => onMark(rows.map((r) => r.id))}>
              {t.all}
            </button>
            <button type="button" className="underline" onClick={() => onMark([])}>
              {t.none}
            </button>
          </span>
        </div>
      )}
      <LongList
        name={t.elements}
        rows={rows}
        keyOf={(e) => e.id}
        height={70}
        gap={6}
        className="m-2"
        at={chosen}
      >
        {(element) => (
          <>
            <button
              type="button"
              aria-current={element.id === chosen}
              draggable
              onDragStart={(event) => carry(event, element.id, marked)}
              onClick={(event) =>
                event.ctrlKey || event.metaKey || event.shiftKey ? toggle(element.id) : onChoose(element.id)
              }
              className="flex w-full gap-2 rounded-lg border border-line bg-card p-1.5 text-left hover:border-soft aria-[current=true]:border-accent aria-[current=true]:ring-1 aria-[current=true]:ring-accent aria-[current=true]:ring-inset"
            >
              <ElementPicture element={element} className="h-14 w-22 shrink-0 rounded" />
              <span className="min-w-0 flex-1 pr-4">
                <span className="line-clamp-2 font-medium [overflow-wrap:anywhere]" title={element.name}>
                  <FileName name={element.name} />
                </span>
                <ElementWords element={element} carrier={carriers.get(element.id)} />
              </span>
            </button>
            <input
              type="checkbox"
              aria-label={t.mark(element.name)}
              checked={marked.includes(element.id)}
              onChange={() => toggle(element.id)}
              className="absolute top-2 right-2 size-3.5 accent-[var(--accent)]"
            />
          </>
        )}
      </LongList>
    </>
  );
}

function ElementWords({ element, carrier }: { element: ElementOut; carrier: ElementOut | undefined }) {
  if (element.state === "arriving") return <span className="text-soft">{t.lookingAtIt}</span>;
  if (element.state === "refused") return <span className="text-error">{t.refusedSeeWhy}</span>;
  if (element.replaced) return <span className="text-warn">{t.replacedOnDiskSayYes}</span>;
  const missing = element.facts?.missing.length ?? 0;
  const text = element.holds ? heldInWords(element) : element.has_alpha ? element.reading_words : "no alpha";
  const doubt = doubted(element);
  return (
    <span className="block text-soft">
      <span className="block truncate" title={text}>
        {text}
      </span>
      {doubt && <span className="block text-warn">{t.thePixelsSayOtherwise}</span>}
      {!doubt && needsConfirming(element) && <span className="block text-warn">{t.toConfirm}</span>}
      {missing > 0 && (
        <span className="block text-warn">
          {missing} {missing === 1 ? t.frame : t.frames}
          {t.missing}
        </span>
      )}
      {carrier && (
        <span className="block truncate" title={t.carriedBy(carrier.name)}>
          {t.carriedBy(carrier.name)}
        </span>
      )}
    </span>
  );
}
