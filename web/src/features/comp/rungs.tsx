/** The rungs of place, merge and life. */
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import { changeLayer, changePlace, type CompDocument, type Layer, type Place } from "../../domain/comp";
import { Choose } from "../../ui/Choose";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import type { DocumentStore } from "./documentStore";

interface Props {
  store: DocumentStore;
  layer: Layer;
}

export function PlaceRung({ store, layer }: Props) {
  const { sketch, commit } = store.getState();
  const { width, height } = store.getState().document;
  const field = (
    name: string,
    key: "x" | "y" | "scale" | "turn",
    slider: [number, number],
    step: number,
    unit: string,
    rest: number,
  ) => (
    <NumberField
      name={name}
      value={layer.place[key]}
      step={step}
      slider={slider}
      unit={unit}
      rest={rest}
      min={key === "scale" ? 0.002 : -100000}
      max={key === "scale" ? 100 : 100000}
      onDraft={(v) => sketch((d) => changePlace(d, layer.id, { [key]: v }))}
      onCommit={(v) => commit((d) => changePlace(d, layer.id, { [key]: v }), `${name} of ${layer.name}`)}
    />
  );
  return (
    <div className="space-y-1">
      {field("x", "x", [-width, width], 1, "px", 0)}
      {field("y", "y", [-height, height], 1, "px", 0)}
      {field("scale", "scale", [0.05, 3], 0.01, "×", 1)}
      {field("turn", "turn", [-180, 180], 0.5, "°", 0)}
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">resampled</span>
        <Segments<Place["filter"]>
          name="How pixels are resampled"
          small
          value={layer.place.filter}
          choices={[
            { value: "cubic", label: "Cubic" },
            { value: "linear", label: "Linear" },
            { value: "nearest", label: "Nearest" },
          ]}
          onChange={(filter) =>
            commit((d) => changePlace(d, layer.id, { filter }), `resampling of ${layer.name}`)
          }
        />
      </div>
      <p className="text-soft">
        From rest: centred, on whole pixels. Moves by whole pixels are never resampled.
      </p>
    </div>
  );
}

export function MeetsRung({ store, layer }: Props) {
  const { sketch, commit } = store.getState();
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
        <span className="w-20 shrink-0 text-soft">by</span>
        <Choose
          name="Merge operator"
          value={layer.operator}
          options={options.length ? options : [{ value: layer.operator, label: layer.operator }]}
          onChange={(operator) =>
            commit(
              (d) => changeLayer(d, layer.id, { operator: operator as Layer["operator"] }),
              `${operator} for ${layer.name}`,
            )
          }
        />
      </div>
      <NumberField
        name="opacity"
        value={layer.opacity * 100}
        min={0}
        max={100}
        step={1}
        digits={1}
        slider={[0, 100]}
        unit="%"
        rest={100}
        onDraft={(v) => sketch((d) => changeLayer(d, layer.id, { opacity: v / 100 }))}
        onCommit={(v) =>
          commit((d) => changeLayer(d, layer.id, { opacity: v / 100 }), `opacity of ${layer.name}`)
        }
      />
    </div>
  );
}

export function LifeRung({ store, layer, document }: Props & { document: CompDocument }) {
  const { commit } = store.getState();
  const first = layer.first ?? document.first;
  const last = layer.last ?? document.last;
  const whole = (v: number) => Math.round(v);
  return (
    <div className="space-y-1">
      <NumberField
        name="in frame"
        value={first}
        min={-1000000}
        max={last}
        step={1}
        digits={0}
        rest={document.first}
        onCommit={(v) =>
          commit(
            (d) => changeLayer(d, layer.id, { first: whole(v) === document.first ? null : whole(v) }),
            `in frame of ${layer.name}`,
          )
        }
      />
      <NumberField
        name="out frame"
        value={last}
        min={first}
        max={1000000}
        step={1}
        digits={0}
        rest={document.last}
        onCommit={(v) =>
          commit(
            (d) => changeLayer(d, layer.id, { last: whole(v) === document.last ? null : whole(v) }),
            `out frame of ${layer.name}`,
          )
        }
      />
      <NumberField
        name="starts late"
        help="Frames by which the element starts after the comp's first frame."
        value={layer.offset}
        step={1}
        digits={0}
        rest={0}
        unit="fr"
        onCommit={(v) =>
          commit((d) => changeLayer(d, layer.id, { offset: whole(v) }), `start of ${layer.name}`)
        }
      />
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">beyond it</span>
        <Segments<Layer["ends"]>
          name="Beyond the element's frames"
          small
          value={layer.ends}
          choices={[
            { value: "hold", label: "Hold" },
            { value: "loop", label: "Loop" },
            { value: "blank", label: "Blank" },
          ]}
          onChange={(ends) => commit((d) => changeLayer(d, layer.id, { ends }), `end of ${layer.name}`)}
        />
      </div>
    </div>
  );
}
