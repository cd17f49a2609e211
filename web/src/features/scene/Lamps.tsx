/** Lamps of the set-up's own: light from one direction, beside what the scene has. */
import { Plus, Trash2 } from "lucide-react";
import type { RenderSetup } from "../../api/scenes";
import { codeOfLight, lightOfCode } from "../../domain/light";
import { colourOf, hexOf } from "../../domain/words";
import { Button, SignButton } from "../../ui/basics";
import { KeyedNumber } from "./KeyedNumber";
import { useSetup } from "./setupStore";
import { Line } from "../../ui/Line";
import { text } from "./strings";

const t = text.Lamps;

type Lamp = RenderSetup["lamps"][number];

const MOST = 16;

/** A name that no lamp has. */
function freeName(lamps: Lamp[]): string {
  let n = lamps.length + 1;
  while (lamps.some((lamp) => lamp.name === `lamp ${n}`)) n += 1;
  return `lamp ${n}`;
}

export function Lamps({ setup, frame }: { setup: RenderSetup; frame: number }) {
  const commit = useSetup((s) => s.commit);
  const { lamps } = setup;
  const add = () => {
    const lamp: Lamp = {
      name: freeName(lamps),
      azimuth: -40,
      elevation: 45,
      strength: 2,
      colour: [1, 1, 1],
      keys: {},
    };
    commit({ lamps: [...lamps, lamp] });
  };
  return (
    <div className="space-y-1.5">
      {lamps.map((lamp, index) => (
        <LampCard key={lamp.name} lamps={lamps} lamp={lamp} index={index} frame={frame} />
      ))}
      {lamps.length < MOST && (
        <Button onClick={add}>
          <Plus className="size-3.5" />
          {t.addALamp}
        </Button>
      )}
    </div>
  );
}

interface CardProps {
  lamps: Lamp[];
  lamp: Lamp;
  index: number;
  frame: number;
}

function LampCard({ lamps, lamp, index, frame }: CardProps) {
  const { commit } = useSetup.getState();
  const changed = (part: Partial<Lamp>) => ({
    lamps: lamps.map((other, i) => (i === index ? { ...other, ...part } : other)),
  });
  const own = {
    part: lamp,
    frame,
    put: (next: Lamp, how: "sketch" | "commit") => useSetup.getState()[how](changed(next)),
  };
  const hex = hexOf(codeOfLight(lamp.colour));
  return (
    <section aria-label={lamp.name} className="space-y-1 rounded-md border border-line bg-card px-2 py-1.5">
      <div className="flex items-center">
        <h4 className="min-w-0 flex-1 truncate font-semibold">{lamp.name}</h4>
        <SignButton
          name={t.takeOut(lamp.name)}
          onClick={() => commit({ lamps: lamps.filter((_, i) => i !== index) })}
        >
          <Trash2 className="size-4" />
        </SignButton>
      </div>
      <KeyedNumber
        {...own}
        field="azimuth"
        name={t.azimuth}
        unit="°"
        min={-36000}
        max={36000}
        step={1}
        slider={[-180, 180]}
      />
      <KeyedNumber
        {...own}
        field="elevation"
        name={t.elevation}
        unit="°"
        min={-90}
        max={90}
        step={1}
        slider={[-90, 90]}
      />
      <KeyedNumber
        {...own}
        field="strength"
        name={t.strength}
        unit="lx"
        min={0}
        max={1e6}
        rest={2}
        slider={[0, 10]}
      />
      <Line label={t.colour}>
        <input
          type="color"
          aria-label={t.colourOf(lamp.name)}
          value={hex}
          onChange={(event) => {
            const code = colourOf(event.target.value);
            if (code) commit(changed({ colour: lightOfCode(code) }));
          }}
          className="h-7 w-10 rounded border border-line bg-card p-0.5"
        />
        <span className="num ml-2 self-center text-soft">{hex}</span>
      </Line>
    </section>
  );
}
