/** Copied layers put into a comp; of another project with the elements that they show. */
import { X } from "lucide-react";
import { ApiProblem, asProblem } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { fontCalls } from "../../api/fonts";
import { fontsNamed, inProject, keptCopied, keysNamed, pasted, type Copied } from "../../domain/clipboard";
import type { CompDocument } from "../../domain/comp";
import { ProblemNote, SignButton } from "../../ui/basics";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.pasting;

/** Only what can be brought over is pasted: all of it or nothing, and then why. */
export async function paste(store: DocumentStore): Promise<void> {
  const copied = keptCopied();
  if (!copied) return;
  const { project } = store.getState().comp;
  useDesk.setState({ notPasted: null });
  try {
    put(store, copied.project === project ? copied : await broughtOver(copied, project));
  } catch (error) {
    useDesk.setState({ notPasted: asProblem(error) });
  }
}

function put(store: DocumentStore, copied: Copied): void {
  const { comp, document, commit } = store.getState();
  const into = (d: CompDocument) => pasted(d, copied, comp.id, useDesk.getState().layer);
  const [, ids] = into(document);
  commit((d) => into(d)[0], t.paste(ids.length > 1 ? t.layers(ids.length) : copied.layers[0]!.name));
  useDesk.setState({ layer: ids.at(-1)!, also: ids.slice(0, -1) });
}

async function broughtOver(copied: Copied, project: number): Promise<Copied> {
  const keys = keysNamed(copied.layers);
  if (keys.some((key) => key.startsWith("c"))) {
    throw new ApiProblem(0, { code: "comp-elsewhere", message: t.aComp, advice: t.ungroupFirst, where: "" });
  }
  const elements = keys.map((key) => Number(key.slice(1)));
  const rows = elements.length > 0 ? await elementCalls.bringOver(project, elements) : [];
  const fonts = fontsNamed(copied.layers);
  if (fonts.length > 0) await fontCalls.bringOver(project, copied.project, fonts);
  return inProject(copied, project, Object.fromEntries(rows.map((row) => [`e${row.element}`, row.key])));
}

/** Why layers of another project were not pasted. */
export function NotPasted() {
  const problem = useDesk((d) => d.notPasted);
  if (!problem) return null;
  return (
    <div className="flex items-start gap-2 border-t border-line p-2">
      <div className="min-w-0 flex-1">
        <ProblemNote problem={problem} />
      </div>
      <SignButton name={t.close} onClick={() => useDesk.setState({ notPasted: null })}>
        <X className="size-4" />
      </SignButton>
    </div>
  );
}
