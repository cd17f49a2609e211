/** Layers and groups that go into the same OpenEXR file, each alone, and data of them. */
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import { elementOf, type Layer } from "../../domain/comp";
import { extraChannelsOf } from "../../domain/extraChannels";
import { holdersOf, walk } from "../../domain/tree";
import type { OrderDraft } from "../../domain/order";
import { Tick } from "../../ui/Tick";
import { text } from "./strings";

const t = text.FileLayers;

interface Props {
  project: number;
  layers: readonly Layer[];
  draft: OrderDraft;
  onTake: (part: Partial<OrderDraft["take"]>) => void;
}

export function FileLayers({ project, layers, draft, onTake }: Props) {
  const codecs = useQuery(queries.transcodeFormats());
  const elements = useQuery(queries.elements(project));
  const chosen = draft.take.layers;
  const holds = draft.forms.some(
    (f) => f.contents === "rgba" && codecs.data?.find((c) => c.name === f.codec)?.ending === ".exr",
  );
  // what was chosen can be taken out again whatever the format is now
  if (!holds && chosen.length === 0) return null;
  const all = walk(layers);
  const own = all.map((l) => l.id);
  const whole = own.every((id) => chosen.includes(id));
  const pictures = chosen.filter((one) => !one.includes(":")).length;
  return (
    <details className="rounded-md border border-line bg-card px-2 py-1">
      <summary className="cursor-default">
        {t.layersInTheFile}
        <span className="ml-2 text-soft">{t.soMany(pictures, chosen.length - pictures)}</span>
      </summary>
      <p className="mt-1 text-soft">{t.eachAlone}</p>
      <div className="mt-1 max-h-48 overflow-auto">
        {all.length > 1 && (
          <Tick
            label={t.allOfThem}
            checked={whole}
            onChange={(on) =>
              onTake({ layers: [...(on ? own : []), ...chosen.filter((one) => one.includes(":"))] })
            }
          />
        )}
        {nearestFirst(layers).map((layer) => (
          <div key={layer.id} style={{ paddingLeft: `${holdersOf(layers, layer.id).length}rem` }}>
            <OneLayer
              layer={layer}
              channels={extraChannelsOf(elements.data?.filter((e) => e.key === elementOf(layer)) ?? [])}
              chosen={chosen}
              onChoose={(next) => onTake({ layers: next })}
            />
          </div>
        ))}
      </div>
    </details>
  );
}

/** Groups before their members, as they are folded open. */
const nearestFirst = (layers: readonly Layer[]): Layer[] =>
  layers.toReversed().flatMap((l) => [l, ...(l.kind === "group" ? nearestFirst(l.layers) : [])]);

interface OneProps {
  layer: Layer;
  /** Of data that it shows. */
  channels: readonly string[];
  chosen: readonly string[];
  onChoose: (chosen: string[]) => void;
}

function OneLayer({ layer, channels, chosen, onChoose }: OneProps) {
  const tick = (name: string, label: string) => (
    <Tick
      key={name}
      label={label}
      checked={chosen.includes(name)}
      onChange={(on) => onChoose(on ? [...chosen, name] : chosen.filter((one) => one !== name))}
    />
  );
  return (
    <>
      {tick(layer.id, layer.name)}
      {channels.length > 0 && (
        <div
          role="group"
          aria-label={t.dataOf(layer.name)}
          className="num flex flex-wrap gap-x-3 pl-5 text-soft"
        >
          {channels.map((channel) => tick(`${layer.id}:${channel}`, channel))}
        </div>
      )}
    </>
  );
}
