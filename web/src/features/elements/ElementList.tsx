/** The list of elements; the reading stands on every card. */
import type { ElementOut } from "../../api/client";
import { ElementPicture, needsConfirming } from "../../parts/ElementPicture";
import { FileName } from "../../ui/FileName";

interface Props {
  rows: ElementOut[];
  chosen: number;
  onChoose: (id: number) => void;
}

export function ElementList({ rows, chosen, onChoose }: Props) {
  return (
    <ul aria-label="Elements" className="min-h-0 flex-1 space-y-1.5 overflow-auto p-2">
      {rows.map((element) => (
        <li key={element.id}>
          <button
            type="button"
            aria-current={element.id === chosen}
            onClick={() => onChoose(element.id)}
            className="flex w-full gap-2.5 rounded-lg border border-line bg-card p-1.5 text-left hover:border-soft aria-[current=true]:border-accent aria-[current=true]:ring-1 aria-[current=true]:ring-accent"
          >
            <ElementPicture element={element} className="h-14 w-24 shrink-0 rounded" />
            <span className="min-w-0 flex-1">
              <span className="line-clamp-2 font-medium [overflow-wrap:anywhere]" title={element.name}>
                <FileName name={element.name} />
              </span>
              <ElementWords element={element} />
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function ElementWords({ element }: { element: ElementOut }) {
  if (element.state === "arriving") return <span className="text-soft">looking at it …</span>;
  if (element.state === "refused") return <span className="text-error">refused: see why</span>;
  const missing = element.facts?.missing.length ?? 0;
  const text = element.facts?.alpha ? element.reading_words : "no alpha";
  return (
    <span className="block truncate text-soft" title={text}>
      {text}
      {needsConfirming(element) && <span className="text-warn"> · to confirm</span>}
      {missing > 0 && (
        <span className="text-warn">
          {" "}
          · {missing} {missing === 1 ? "frame" : "frames"} missing
        </span>
      )}
    </span>
  );
}
