/** Objects of a scene: their numbers, shadow catchers, and the layers they are rendered in. */
import { counted } from "../../domain/words";
import { ArrowDown, ArrowUp, Trash2 } from "lucide-react";
import type { RenderSetup, SceneFacts } from "../../api/scenes";
import { Button, SignButton } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { Segments } from "../../ui/Segments";
import { Tick } from "../../ui/Tick";
import { SetupSection, type SectionProps } from "./sections";
import { useSetup } from "./setupStore";
import { text } from "./strings";

const t = text.objectSections;

export function ObjectsSection({ setup, facts }: SectionProps) {
  const numbered = Object.keys(setup.numbers).length;
  const says = `${numbered} numbered, ${counted(setup.shadow_catchers.length, t.shadowCatcher)}`;
  return (
    <SetupSection title={t.objects} says={says}>
      <p className="text-soft">{t.aNumberMakesAMask}</p>
      <table className="w-full">
        <thead className="text-left text-soft">
          <tr>
            <th className="font-normal">{t.object}</th>
            <th className="w-14 font-normal">{t.number}</th>
            <th className="w-14 font-normal">{t.catches}</th>
          </tr>
        </thead>
        <tbody>
          {facts.nodes.map((node) => (
            <ObjectRow key={node.name} node={node} setup={setup} />
          ))}
        </tbody>
      </table>
    </SetupSection>
  );
}

function ObjectRow({ node, setup }: { node: SceneFacts["nodes"][number]; setup: RenderSetup }) {
  const commit = useSetup((s) => s.commit);
  const number = setup.numbers[node.name];
  const setNumber = (text: string) => {
    const rest = Object.fromEntries(Object.entries(setup.numbers).filter(([name]) => name !== node.name));
    const value = Number(text);
    const given = text.trim() !== "" && Number.isInteger(value) && value >= 0;
    commit({ numbers: given ? { ...rest, [node.name]: value } : rest });
  };
  const catches = setup.shadow_catchers.includes(node.name);
  return (
    <tr>
      <td className="py-0.5 [overflow-wrap:anywhere]" style={{ paddingLeft: node.depth * 12 }}>
        {node.name}
      </td>
      <td>
        <input
          key={number ?? "none"}
          aria-label={t.numberOf(node.name)}
          inputMode="numeric"
          defaultValue={number ?? ""}
          onBlur={(event) => setNumber(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
          className="num h-6 w-11 rounded-md border border-line bg-card px-1 text-right"
        />
      </td>
      <td>
        <input
          type="checkbox"
          aria-label={t.isAShadowCatcher(node.name)}
          checked={catches}
          onChange={() =>
            commit({
              shadow_catchers: catches
                ? setup.shadow_catchers.filter((n) => n !== node.name)
                : [...setup.shadow_catchers, node.name],
            })
          }
          className="size-3.5 accent-[var(--accent)]"
        />
      </td>
    </tr>
  );
}

export function LayersSection({ setup, facts }: SectionProps) {
  const commit = useSetup((s) => s.commit);
  const { layers } = setup;
  const says =
    layers.length === 0
      ? t.everythingInOnePicture
      : `${layers.length}, ${setup.flattened ? "flattened" : t.oneFolderEach}`;
  const free = facts.nodes.filter((n) => !layers.some((x) => x.objects.includes(n.name)));
  const add = (object: string) =>
    commit({ layers: [...layers, { name: safe(object, layers), objects: [object], render: true }] });
  const byDepth = () =>
    commit({
      layers: facts.objects_by_depth
        .filter((name) => !setup.shadow_catchers.includes(name))
        .map((name) => ({ name: safe(name, []), objects: [name], render: true })),
    });
  return (
    <SetupSection title={t.layers} says={says}>
      {layers.length === 0 ? (
        <Button onClick={byDepth}>{t.oneLayerAnObjectBy}</Button>
      ) : (
        <>
          <p className="text-soft">{t.theNearestFirst}</p>
          <ol aria-label={t.layers} className="space-y-1">
            {layers.map((layer, i) => (
              <LayerRow key={layer.name} setup={setup} place={i} />
            ))}
          </ol>
          <Segments
            name={t.nearerLayers}
            value={setup.holdout}
            choices={[
              { value: "nearer", label: t.nearerOnesCutOut, tip: t.layersAddUpToThe },
              { value: "whole", label: t.eachWhole },
            ]}
            onChange={(holdout) => commit({ holdout })}
          />
          <Tick
            label={t.allInOnePicture}
            checked={setup.flattened}
            onChange={(flattened) => commit({ flattened })}
          />
        </>
      )}
      {free.length > 0 && (
        <Choose
          name={t.addALayer}
          value="-"
          options={[
            { value: "-", label: t.addALayerWith },
            ...free.map((n) => ({ value: n.name, label: n.name })),
          ]}
          onChange={(name) => name !== "-" && add(name)}
        />
      )}
    </SetupSection>
  );
}

/** A layer's name from an object's: what folders can be called, and not taken. */
function safe(name: string, taken: RenderSetup["layers"]): string {
  const base = name.replace(/[^\w .-]+/g, "_").slice(0, 50) || "layer";
  let found = base;
  for (let i = 2; taken.some((x) => x.name === found); i += 1) found = `${base} ${i}`;
  return found;
}

function LayerRow({ setup, place }: { setup: RenderSetup; place: number }) {
  const commit = useSetup((s) => s.commit);
  const { layers } = setup;
  const layer = layers[place]!;
  const put = (part: Partial<RenderSetup["layers"][number]>) =>
    commit({ layers: layers.map((x, i) => (i === place ? { ...x, ...part } : x)) });
  const move = (by: number) => {
    const next = layers.filter((_, i) => i !== place);
    next.splice(place + by, 0, layer);
    commit({ layers: next });
  };
  return (
    <li className="rounded-md border border-line bg-card px-2 py-1">
      <div className="flex items-center gap-1">
        <div className="min-w-0 flex-1">
          <Tick
            label={layer.name}
            checked={layer.render}
            onChange={(render) => put({ render })}
            help={t.renderIt}
          />
        </div>
        <SignButton name={t.nearer(layer.name)} disabled={place === 0} onClick={() => move(-1)}>
          <ArrowUp className="size-3.5" />
        </SignButton>
        <SignButton
          name={t.farther(layer.name)}
          disabled={place === layers.length - 1}
          onClick={() => move(1)}
        >
          <ArrowDown className="size-3.5" />
        </SignButton>
        <SignButton
          name={t.takeOut(layer.name)}
          onClick={() => commit({ layers: layers.filter((_, i) => i !== place) })}
        >
          <Trash2 className="size-3.5" />
        </SignButton>
      </div>
      <p className="truncate text-soft">{layer.objects.join(", ")}</p>
    </li>
  );
}
