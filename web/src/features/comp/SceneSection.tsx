/** The recipe's section Scene: a layer that stands in the scene of a rendered set, seen by its camera. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asProblem, type CameraRow, type Problem } from "../../api/client";
import { queries } from "../../api/queries";
import { changeLayer, type Card, type Layer } from "../../domain/comp";
import { numberAt, type Part } from "../../domain/parts";
import { trimmed } from "../../domain/words";
import { Button, ProblemNote } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { Line } from "../../ui/Line";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import { AnimatedNumber } from "./AnimatedNumber";
import { useDesk } from "./deskState";
import type { DocumentStore } from "./documentStore";
import { layFlat, standLayer } from "./standing";
import { text } from "./strings";

const t = text.SceneSection;

interface Props {
  store: DocumentStore;
  layer: Layer;
  comp: number;
  project: number;
}

export function sceneInWords({ card }: Layer, frame: number): string {
  if (!card) return t.flat;
  const [x, y, z] = ["x", "y", "z"].map((n) => trimmed(numberAt(card as Part, n, frame), 2));
  return t.at(x!, y!, z!);
}

export function SceneSection({ store, layer, comp, project }: Props) {
  const cameras = useQuery(queries.cameras(project)).data ?? [];
  const { card } = layer;
  if (card) return <Standing {...{ store, layer, card, cameras }} />;
  return <Flat {...{ store, layer, comp, cameras }} />;
}

type FlatProps = Pick<Props, "store" | "layer" | "comp"> & { cameras: CameraRow[] };

function Flat({ store, layer, comp, cameras }: FlatProps) {
  const own = store((s) => s.document.camera);
  const [chosen, setChosen] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const camera = chosen ?? (own || cameras[0]?.key);
  if (!camera) return <p className="text-soft">{t.noCameraYet}</p>;
  const stand = () => {
    setProblem(null);
    standLayer(store, comp, layer.id, { camera }).catch((error: unknown) => setProblem(asProblem(error)));
  };
  return (
    <div className="space-y-1.5">
      <p className="text-soft">{t.itLiesFlat}</p>
      <CameraChoice {...{ cameras, value: camera, onChange: setChosen }} />
      <Button onClick={stand}>{t.standIt}</Button>
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

interface Row {
  field: "x" | "y" | "z" | "width" | "turn" | "tilt" | "roll";
  name: string;
  unit: string;
}

const ROWS: Row[] = [
  { field: "x", name: t.x, unit: "" },
  { field: "y", name: t.y, unit: "" },
  { field: "z", name: t.z, unit: "" },
  { field: "width", name: t.width, unit: "" },
  { field: "turn", name: t.turn, unit: "°" },
  { field: "tilt", name: t.tilt, unit: "°" },
  { field: "roll", name: t.roll, unit: "°" },
];

function Standing({
  store,
  layer,
  card,
  cameras,
}: {
  store: DocumentStore;
  layer: Layer;
  card: Card;
  cameras: CameraRow[];
}) {
  const own = store((s) => s.document.camera);
  const tool = useDesk((d) => d.tool);
  const change = (next: Partial<Card>, what: string) =>
    store
      .getState()
      .commit((d) => changeLayer(d, layer.id, { card: { ...card, ...next } }), t.changeOf(what, layer.name));
  const standing = tool?.kind === "stand";
  const owner = { layer: layer.id, step: null };
  return (
    <div className="space-y-1">
      <CameraChoice
        cameras={cameras}
        value={card.camera || own}
        onChange={(key) => change({ camera: key === own ? "" : key }, t.camera)}
      />
      <div className="flex flex-wrap gap-1.5 py-1">
        <Button
          aria-pressed={standing}
          className="aria-pressed:border-accent aria-pressed:text-accent"
          onClick={() => useDesk.setState({ tool: standing ? null : { kind: "stand", owner } })}
        >
          {t.putWhereIClick}
        </Button>
        <Button onClick={() => layFlat(store, layer)}>{t.layItFlat}</Button>
      </div>
      {standing && <p className="text-soft">{t.clickOnThePicture}</p>}
      {ROWS.map(({ field, name, unit }) => (
        <AnimatedNumber
          key={field}
          {...{ store, layer, field, name, unit }}
          path={{ of: "card" }}
          what={t.changeOf(name, layer.name)}
          min={field === "width" ? 0.0001 : unit ? -36000 : -1e6}
          max={unit ? 36000 : 1e6}
          step={unit ? 0.5 : 0.01}
          digits={unit ? 1 : 3}
          rest={field === "width" ? 1 : 0}
        />
      ))}
      <Choice<Card["faces"]>
        name={t.angles}
        value={card.faces}
        choices={[
          { value: "as-turned", label: t.inTheScene },
          { value: "camera", label: t.fromTheCamera },
        ]}
        onChange={(faces) => change({ faces }, t.angles)}
      />
      <Choice<Card["anchor"]>
        name={t.standsBy}
        value={card.anchor}
        choices={[
          { value: "centre", label: t.itsMiddle },
          { value: "foot", label: t.itsFoot },
        ]}
        onChange={(anchor) => change({ anchor }, t.standsBy)}
      />
      <NumberField
        name={t.cameraOffset}
        help={t.framesByWhichTheCamera}
        value={card.offset}
        step={1}
        digits={0}
        rest={0}
        unit="fr"
        onCommit={(v) => change({ offset: Math.round(v) }, t.cameraOffset)}
      />
      <p className="text-soft">{t.lengthsAreTheScenes}</p>
    </div>
  );
}

function CameraChoice({
  cameras,
  value,
  onChange,
}: {
  cameras: CameraRow[];
  value: string;
  onChange: (key: string) => void;
}) {
  const gone = value && !cameras.some((c) => c.key === value);
  return (
    <Line label={t.camera}>
      <Choose
        name={t.camera}
        value={value}
        options={[
          ...cameras.map((c) => ({ value: c.key, label: t.cameraOf(c.name) })),
          ...(gone ? [{ value, label: t.oneThatIsGone }] : []),
        ]}
        onChange={onChange}
      />
    </Line>
  );
}

interface ChoiceProps<T extends string> {
  name: string;
  value: T;
  choices: { value: T; label: string }[];
  onChange: (value: T) => void;
}

function Choice<T extends string>({ name, value, choices, onChange }: ChoiceProps<T>) {
  return (
    <Line label={name}>
      <Segments<T> name={name} small value={value} choices={choices} onChange={onChange} />
    </Line>
  );
}
