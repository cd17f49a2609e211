/** The camera: one of the scene's, or one that is placed by hand and may have keys. */
import { useMutation } from "@tanstack/react-query";
import { asProblem, client, take } from "../../api/client";
import type { SceneOut } from "../../api/scenes";
import type { Orbit } from "../../domain/orbit";
import { trimmed } from "../../domain/words";
import { ProblemNote } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { Segments } from "../../ui/Segments";
import { orbitAt, type Placed } from "./cameraEdits";
import { KeyedNumber } from "./KeyedNumber";
import { SetupSection, type SectionProps } from "./sections";
import { useSetup } from "./setupStore";
import { Line } from "../../ui/Line";
import { text } from "./strings";

const t = text.CameraSection;

interface Number {
  name: keyof Orbit;
  label: string;
  unit?: string;
  range: [number, number];
  slider?: [number, number];
  step: number;
}

const NUMBERS: Number[] = [
  { name: "azimuth", label: t.azimuth, unit: "°", range: [-36000, 36000], slider: [-180, 180], step: 1 },
  { name: "elevation", label: t.elevation, unit: "°", range: [-90, 90], slider: [-90, 90], step: 1 },
  { name: "roll", label: t.roll, unit: "°", range: [-36000, 36000], slider: [-45, 45], step: 1 },
  { name: "distance", label: t.distance, range: [1e-5, 1e6], step: 0.1 },
  { name: "angle", label: t.angle, unit: "°", range: [0.1, 170], slider: [5, 100], step: 1 },
  { name: "target_x", label: t.targetX, range: [-1e6, 1e6], step: 0.1 },
  { name: "target_y", label: t.targetY, range: [-1e6, 1e6], step: 0.1 },
  { name: "target_z", label: t.targetZ, range: [-1e6, 1e6], step: 0.1 },
];

export function CameraSection({
  setup,
  facts,
  scene,
  frame,
}: SectionProps & { scene: SceneOut; frame: number }) {
  const commit = useSetup((s) => s.commit);
  const camera = setup.placed_camera;
  const place = useMutation({
    mutationFn: () =>
      take<Placed>(
        client.POST("/api/scenes/{scene_id}/camera", {
          params: { path: { scene_id: scene.id } },
          body: { document: setup, frame },
        }),
      ),
    onSuccess: (begun) => commit({ placed_camera: begun }),
  });
  const own = setup.camera ?? facts.cameras[0] ?? "none";
  return (
    <SetupSection title={t.camera} says={camera ? inWords(orbitAt(camera, frame)) : own}>
      <Line label={t.camera}>
        <Segments
          name={t.whichCamera}
          small
          value={camera ? "placed" : "scene"}
          choices={[
            { value: "scene", label: t.ofTheScene },
            { value: "placed", label: t.byHand, tip: t.beginsWhereTheScenes },
          ]}
          onChange={(to) => (to === "placed" ? place.mutate() : commit({ placed_camera: null }))}
        />
      </Line>
      {place.error && <ProblemNote problem={asProblem(place.error)} />}
      {!camera && (
        <Line label={t.name}>
          <Choose
            name={t.camera}
            value={own}
            options={facts.cameras.map((name) => ({ value: name, label: name }))}
            onChange={(name) => commit({ camera: name })}
          />
        </Line>
      )}
      {camera && (
        <>
          <p className="text-soft">{t.dragInThePicture}</p>
          {NUMBERS.map((row) => (
            <CameraNumber key={row.name} row={row} camera={camera} frame={frame} />
          ))}
        </>
      )}
    </SetupSection>
  );
}

function CameraNumber({ row, camera, frame }: { row: Number; camera: Placed; frame: number }) {
  const { name, label, range, step } = row;
  return (
    <KeyedNumber
      part={camera}
      field={name}
      frame={frame}
      put={(placed_camera, how) => useSetup.getState()[how]({ placed_camera })}
      name={label}
      min={range[0]}
      max={range[1]}
      step={step}
      digits={row.unit ? 1 : 3}
      {...(row.unit ? { unit: row.unit } : {})}
      {...(row.slider ? { slider: row.slider } : {})}
    />
  );
}

const inWords = (orbit: Orbit) =>
  t.placed(trimmed(orbit.azimuth, 0), trimmed(orbit.elevation, 0), trimmed(orbit.angle, 0));
