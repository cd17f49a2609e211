/** A colour of linear light picked or typed as sRGB; its numbers stand beside it. */
import { Pipette } from "lucide-react";
import type { Layer } from "../../domain/comp";
import { codeOfLight, lightOfCode } from "../../domain/light";
import { numberAt, partOf, type PartPath } from "../../domain/parts";
import { colourOf, hexOf } from "../../domain/words";
import { SignButton } from "../../ui/basics";
import { samePath } from "./drawing/hands";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { numbersEdit } from "./numberEdit";
import { text } from "./strings";

const t = text.ColourPick;
const PLACES = ["0", "1", "2"];

interface Props {
  store: DocumentStore;
  layer: Layer;
  path: PartPath;
  name: string;
  /** Said in the list of undo. */
  what: string;
}

export function ColourPick({ store, layer, path, name, what }: Props) {
  const part = partOf(layer, path);
  const moves = PLACES.some((p) => part?.keys[`${name}.${p}`]);
  const frame = useDesk((d) => (moves ? d.frame : 0));
  const picking = useDesk(
    ({ tool }) =>
      tool?.kind === "pick" &&
      tool.owner.layer === layer.id &&
      tool.field === name &&
      samePath(tool.path, path),
  );
  const light = PLACES.map((p) => (part ? numberAt(part, `${name}.${p}`, frame) : 0));
  const shown = hexOf(codeOfLight(light));
  if (!part) return null;
  const { sketch, commit } = store.getState();
  const edit = (next: readonly number[]) =>
    numbersEdit(layer.id, path, Object.fromEntries(next.map((v, i) => [`${name}.${i}`, v])));
  const take = (hex: string) => {
    const next = colourOf(hex);
    if (next) commit(edit(lightOfCode(next)), what);
  };
  return (
    <span className="ml-auto flex items-center gap-1">
      <SignButton
        name={picking ? t.clickInThePicture : t.fromThePicture(what)}
        aria-pressed={picking}
        className={`!min-w-6 !px-0 ${picking ? "bg-accent-soft text-accent" : ""}`}
        onClick={() =>
          useDesk.setState({
            tool: picking
              ? null
              : { kind: "pick", owner: { layer: layer.id, step: null }, path, field: name, what },
          })
        }
      >
        <Pipette className="size-4" />
      </SignButton>
      <input
        type="color"
        aria-label={t.pick(what)}
        value={shown}
        onChange={(event) => {
          const next = colourOf(event.target.value);
          if (next) sketch(edit(lightOfCode(next)));
        }}
        ref={(input) => {
          // React's change is the browser's input; what the picker ends with is the browser's change
          if (input) input.onchange = () => take(input.value);
        }}
        className="h-6 w-9 rounded border border-line bg-card"
      />
      <input
        aria-label={t.code(what)}
        title={t.srgb}
        key={shown}
        defaultValue={shown}
        onBlur={(event) => {
          const typed = event.target;
          if (typed.value !== shown) take(typed.value);
          if (!colourOf(typed.value)) typed.value = shown;
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="num h-6 w-20 rounded border border-line bg-card px-1"
      />
    </span>
  );
}
