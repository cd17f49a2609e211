/** The patch: outputs down, inputs across; a click connects. Below, the chosen output's numbers, and words. */
import { useState } from "react";
import { useParams } from "react-router";
import { changeStep, elementsOfSource, elementsIn } from "../../../domain/comp";
import { Choose } from "../../../ui/Choose";
import { NumberField } from "../../../ui/NumberField";
import { Tick } from "../../../ui/Tick";
import { StepPresets } from "./StepPresets";
import {
  MADE,
  OUTPUTS,
  patchInWords,
  plainRoute,
  restOf,
  routeInWords,
  titleOfOutput,
  withRoute,
  type Output,
  type Route,
  type Routes,
} from "./patchWords";
import { useSources } from "./SourceField";
import { useExtraChannels } from "./useExtraChannels";
import type { StepFieldProps } from "./fieldProps";
import { text } from "../strings";

const t = text.PatchField;

const LETTERS = ["R", "G", "B", "A"];
const COLOURS: Record<string, string> = { R: "text-red", G: "text-green", B: "text-blue", A: "" };

/** An input as a value of the list: which side, and which of its channels. */
const inputOf = (source: Route["source"], channel: string) => `${source}/${channel}`;

export function PatchField(props: StepFieldProps) {
  const { store, layer, index, step, name } = props;
  const routes = Reflect.get(step, name) as Routes;
  const outputs = String(Reflect.get(step, "outputs"));
  const second = String(Reflect.get(step, "second"));
  const layers = store((s) => s.document.layers);
  const sources = useSources(props);
  const secondName = sources.find((s) => s.value === second)?.label ?? t.theSecondSource;
  const secondKeys = second ? elementsOfSource({ layers }, second, layer) : [];
  const further = { own: useExtraChannels(elementsIn(layer)), second: useExtraChannels(secondKeys) };
  const [chosen, setChosen] = useState<Output>("A");

  const save = (next: Routes, what: string) =>
    store.getState().commit((d) => changeStep(d, layer.id, index, { [name]: next }), what);
  const connect = (output: Output, source: Route["source"], channel: string) => {
    setChosen(output);
    const next = withRoute(routes, output, source, channel, outputs);
    const words = next[output] ? routeInWords(next[output], secondName) : "itself";
    save(next, t.from4(titleOfOutput(output, outputs), words));
  };
  const groups: [Route["source"], string, string[]][] = [
    ["own", t.thisLayer2, LETTERS],
    ...(second ? ([["second", secondName, LETTERS]] as [Route["source"], string, string[]][]) : []),
    ["constant", "", ["0", "1"]],
  ];
  const current = routes[chosen] ?? plainRoute("own", restOf(chosen, outputs));
  const words = patchInWords(routes, outputs, secondName);
  const project = Number(useParams()["project"]);
  return (
    <div className="pt-1">
      <StepPresets
        project={project}
        of={{ kind: "patch", one: "patch", many: t.patches }}
        steps={() => [step]}
        onUse={([kept], called) =>
          kept &&
          store
            .getState()
            .commit((d) => changeStep(d, layer.id, index, { ...kept, on: step.on }), t.patch(called))
        }
      />
      <div className="overflow-x-auto">
        <table className="border-separate border-spacing-x-px border-spacing-y-0.5 text-center">
          <thead>
            <tr>
              <td />
              {groups.map(([source, title, channels]) => (
                <th
                  key={source}
                  colSpan={channels.length}
                  scope="colgroup"
                  className="max-w-24 truncate px-0.5 font-normal text-soft"
                  title={title}
                >
                  {title}
                </th>
              ))}
            </tr>
            <tr>
              <td />
              {groups.flatMap(([source, , channels]) =>
                channels.map((c) => (
                  <th
                    key={source + c}
                    scope="col"
                    className={`w-4.5 font-semibold ${source === "constant" ? "num text-soft" : COLOURS[c]}`}
                  >
                    {c}
                  </th>
                )),
              )}
            </tr>
          </thead>
          <tbody>
            {OUTPUTS.map((output) => {
              const own = routes[output];
              const rest = restOf(output, outputs);
              return (
                <tr key={output} className={output === chosen ? "bg-accent-soft" : ""}>
                  <th scope="row" className="pr-1 text-left font-medium">
                    <button
                      type="button"
                      aria-pressed={output === chosen}
                      className={`w-14 truncate rounded px-0.5 text-left hover:bg-well ${outputs === "rgb" ? COLOURS[output] : ""}`}
                      onClick={() => setChosen(output)}
                    >
                      {titleOfOutput(output, outputs)}
                    </button>
                  </th>
                  {groups.flatMap(([source, title, channels]) =>
                    channels.map((c) => {
                      const on = own
                        ? own.source === source && own.channel === c
                        : source === "own" && c === rest;
                      return (
                        <td key={source + c} className="p-0">
                          <button
                            type="button"
                            aria-pressed={on}
                            aria-label={t.from(
                              titleOfOutput(output, outputs),
                              c,
                              title ? t.ofWord(title) : "",
                            )}
                            className={`grid size-4.5 place-items-center rounded-[4px] border ${on ? "border-accent bg-accent" : "border-line bg-card hover:border-soft"}`}
                            onClick={() => connect(output, source, c)}
                          >
                            {on && (
                              <span
                                className={`size-1.5 rounded-full ${own?.inverted ? "bg-on-accent ring-1 ring-on-accent ring-offset-1 ring-offset-accent" : "bg-on-accent"}`}
                              />
                            )}
                          </button>
                        </td>
                      );
                    }),
                  )}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <div className="mt-1 rounded border border-line bg-card px-1.5 py-1">
        <p className="font-medium">{titleOfOutput(chosen, outputs)}</p>
        <div className="flex min-h-7 items-center gap-2">
          <span className="w-12 shrink-0 text-soft">{t.from2}</span>
          <Choose
            name={t.from3(titleOfOutput(chosen, outputs))}
            value={inputOf(current.source, current.channel)}
            options={[
              ...[...LETTERS, ...MADE, ...further.own].map((c) => ({
                value: inputOf("own", c),
                label: c,
                group: t.thisLayer,
              })),
              ...(second
                ? [...LETTERS, ...MADE, ...further.second].map((c) => ({
                    value: inputOf("second", c),
                    label: c,
                    group: secondName,
                  }))
                : []),
              { value: inputOf("constant", "0"), label: "0", group: t.constants },
              { value: inputOf("constant", "1"), label: "1", group: t.constants },
            ]}
            onChange={(v) => {
              const at = v.indexOf("/");
              connect(chosen, v.slice(0, at) as Route["source"], v.slice(at + 1));
            }}
          />
        </div>
        <RouteNumbers
          route={current}
          onChange={(part) =>
            save(
              { ...routes, [chosen]: { ...current, ...part } },
              t.ofThePatch(titleOfOutput(chosen, outputs)),
            )
          }
        />
      </div>
      <p role="status" className="pt-1 [overflow-wrap:anywhere]">
        {words.length > 0 ? words.join("; ") : t.everythingStaysAsItWas}
      </p>
    </div>
  );
}

function RouteNumbers({ route, onChange }: { route: Route; onChange: (part: Partial<Route>) => void }) {
  return (
    <>
      <Tick label={t.inverted} checked={route.inverted} onChange={(inverted) => onChange({ inverted })} />
      <div className="grid grid-cols-2 gap-2 [&_label]:!w-10">
        <NumberField
          name={t.gain}
          value={route.gain}
          min={-1000}
          max={1000}
          rest={1}
          onCommit={(gain) => onChange({ gain })}
        />
        <NumberField
          name={t.offset}
          value={route.offset}
          min={-1000}
          max={1000}
          rest={0}
          onCommit={(offset) => onChange({ offset })}
        />
      </div>
    </>
  );
}
