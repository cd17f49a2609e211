/** The recipe's sections Transform and Blend. */
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import { Move } from "lucide-react";
import { changeLayer, changePlace, type Layer, type Transform } from "../../domain/comp";
import type { Size } from "../../domain/geometry";
import { numberAt } from "../../domain/parts";
import { arranged, type Arrangement } from "../../domain/placing";
import { trimmed } from "../../domain/words";
import { Choose } from "../../ui/Choose";
import { Button } from "../../ui/basics";
import { AnimatedNumber } from "./AnimatedNumber";
import { toggleByHand } from "./commands";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { laidAt } from "./drawing/sizes";
import { numbersEdit } from "./numberEdit";
import { text } from "./strings";

const t = text.recipeSections;

interface Props {
  store: DocumentStore;
  layer: Layer;
}

const FILTERS = [
  { value: "cubic", label: t.cubicCatmullRom },
  { value: "linear", label: t.linear },
  { value: "nearest", label: t.nearest },
  { value: "lanczos", label: t.lanczos3Lobes },
];

/** Where a layer lies at a frame, in a few words. */
export function transformInWords(layer: Layer, frame: number): string {
  const at = (name: string) => numberAt(layer.transform, name, frame);
  const turn = at("rotation") ? ` ${trimmed(at("rotation"), 1)}°` : "";
  return `x ${trimmed(at("x"), 1)}  y ${trimmed(at("y"), 1)}  × ${trimmed(at("scale"))}${turn}`;
}

export function TransformSection({ store, layer, size }: Props & { size: Size | undefined }) {
  const { commit } = store.getState();
  const byHand = useDesk((d) => d.tool?.kind === "place");
  const { width, height } = store.getState().document;
  const rows: [string, string, [number, number], number, string, number][] = [
    ["x", t.positionX, [-width, width], 1, "px", 0],
    ["y", t.positionY, [-height, height], 1, "px", 0],
    ["scale", "scale", [0.05, 3], 0.01, "×", 1],
    ["rotation", "rotation", [-180, 180], 0.5, "°", 0],
  ];
  const arrange = (how: Arrangement) => {
    const { document } = store.getState();
    const { frame } = useDesk.getState();
    const placed = arranged(laidAt(layer, frame, size), document, how);
    commit(numbersEdit(layer.id, { of: "transform" }, placed), t.arranged(t.arrangements[how], layer.name));
  };
  return (
    <div className="space-y-1">
      <div className="flex flex-wrap gap-1">
        <Button
          aria-pressed={byHand}
          className="aria-pressed:border-accent aria-pressed:bg-accent-soft aria-pressed:text-accent"
          onClick={() => toggleByHand(store)}
        >
          <Move className="size-3.5" />
          {t.inThePicture}
        </Button>
        {(Object.keys(t.arrangements) as Arrangement[]).map((how) => (
          <Button key={how} onClick={() => arrange(how)}>
            {t.arrangements[how]}
          </Button>
        ))}
      </div>
      {rows.map(([field, name, slider, step, unit, rest]) => (
        <AnimatedNumber
          key={field}
          {...{ store, layer, field, name, slider, step, unit, rest }}
          path={{ of: "transform" }}
          what={t.changeOf(name, layer.name)}
          min={field === "scale" ? 0.002 : -100000}
          max={field === "scale" ? 100 : 100000}
        />
      ))}
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">{t.filter}</span>
        <Choose
          name={t.resamplingFilter}
          value={layer.transform.filter}
          options={FILTERS}
          onChange={(filter) =>
            commit(
              (d) => changePlace(d, layer.id, { filter: filter as Transform["filter"] }),
              t.resamplingFilterOf(layer.name),
            )
          }
        />
      </div>
      <p className="text-soft">{t.atRestTheLayerIs}</p>
    </div>
  );
}

/** What a table says in a few words, as a sentence of its own. */
const sentence = (words = "") => (words ? `${words[0]!.toUpperCase()}${words.slice(1)}.` : "");

export function BlendSection({ store, layer }: Props) {
  const { commit } = store.getState();
  const tables = useQuery(queries.tables());
  const options = (tables.data?.operators ?? []).map((o) => ({
    value: o.name,
    label: o.name,
    help: o.help,
    group: o.family,
  }));
  return (
    <div className="space-y-1">
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">{t.mode}</span>
        <Choose
          name={t.blendMode}
          live
          value={layer.operator}
          options={options.length ? options : [{ value: layer.operator, label: layer.operator }]}
          onChange={(operator) =>
            commit(
              (d) => changeLayer(d, layer.id, { operator: operator as Layer["operator"] }),
              t.forWord(operator, layer.name),
            )
          }
        />
      </div>
      <p className="text-soft">
        {t.pressOrOnTheList(sentence(options.find((o) => o.value === layer.operator)?.help))}
      </p>
      <AnimatedNumber
        {...{ store, layer }}
        path={{ of: "layer" }}
        field="opacity"
        what={t.opacityOf(layer.name)}
        name={t.opacity}
        min={0}
        max={100}
        step={1}
        digits={1}
        slider={[0, 100]}
        unit="%"
        rest={1}
        factor={100}
      />
    </div>
  );
}
