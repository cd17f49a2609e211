/** The project's scenes, to choose from. */
import { Plus } from "lucide-react";
import { useRef } from "react";
import type { SceneOut } from "../../api/scenes";
import { named } from "../../api/importFiles";
import { useImporting } from "../../parts/importing";
import { counted } from "../../domain/words";
import { Button, ProblemNote } from "../../ui/basics";
import { text } from "./strings";

const t = text.SceneList;

export function BringScene({ project, main }: { project: number; main?: boolean }) {
  const bring = useImporting((s) => s.bring);
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        accept=".glb,.gltf,.bin,.png,.jpg,.jpeg"
        onChange={(event) => {
          void bring(project, named([...(event.target.files ?? [])]));
          event.target.value = "";
        }}
      />
      <Button kind={main ? "main" : "plain"} onClick={() => input.current?.click()}>
        <Plus className="size-3.5" />
        {t.importWord}
      </Button>
    </>
  );
}

interface Props {
  rows: SceneOut[];
  chosen: number;
  onChoose: (scene: number) => void;
}

export function SceneList({ rows, chosen, onChoose }: Props) {
  return (
    <ul aria-label={t.scenes} className="min-h-0 flex-1 overflow-auto">
      {rows.map((row) => (
        <li key={row.id}>
          <button
            type="button"
            aria-current={row.id === chosen}
            onClick={() => onChoose(row.id)}
            className="block w-full border-b border-line px-3 py-2 text-left hover:bg-well aria-current:bg-accent-soft"
          >
            <span className="line-clamp-2 font-medium [overflow-wrap:anywhere]">{row.name}</span>
            <span className="block text-soft">{state(row)}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function state(row: SceneOut): string {
  if (row.state === "arriving") return t.beingRead;
  if (row.state === "refused" || !row.facts) return "refused";
  const { triangles, nodes, seconds } = row.facts;
  const moves = seconds > 0 ? `${seconds.toFixed(2)} s` : "still";
  return t.triangles(counted(nodes.length, "object"), moves, triangles.toLocaleString("en"));
}

/** What the scene asks for that is not rendered, or why it was refused. */
export function SceneNotes({ scene }: { scene: SceneOut }) {
  if (scene.problem) return <ProblemNote problem={scene.problem} />;
  const notes = scene.facts?.notes ?? [];
  const added = scene.facts?.added ?? [];
  return (
    <>
      {added.map((sentence) => (
        <p key={sentence} className="text-soft">
          {sentence}
        </p>
      ))}
      {notes.length > 0 && (
        <details className="rounded-md border border-line bg-card px-2 py-1">
          <summary className="cursor-pointer text-warn">
            {notes.length === 1 ? t.n1ThingIs : t.thingsAre(notes.length)}
            {t.notRendered}
          </summary>
          <ul className="mt-1 list-disc space-y-0.5 pl-4 text-soft">
            {notes.map((note) => (
              <li key={note} className="[overflow-wrap:anywhere]">
                {note}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
