/** A set-up's own camera at a frame, and changes of it: a key at the frame where a number has a curve. */
import type { RenderSetup } from "../../api/scenes";
import type { Orbit } from "../../domain/orbit";
import { numberAt, withNumber, type Part } from "../../domain/parts";
import { useSetup } from "./setupStore";

export type Placed = NonNullable<RenderSetup["placed_camera"]>;

const FIELDS = [
  "azimuth",
  "elevation",
  "roll",
  "distance",
  "angle",
  "target_x",
  "target_y",
  "target_z",
] as const;

const asPart = (camera: Placed): Part => camera;

export function orbitAt(camera: Placed, frame: number): Orbit {
  const part = asPart(camera);
  return Object.fromEntries(FIELDS.map((name) => [name, numberAt(part, name, frame)])) as unknown as Orbit;
}

export function withOrbit(camera: Placed, change: Partial<Orbit>, frame: number): Placed {
  let part = asPart(camera);
  for (const [name, value] of Object.entries(change))
    part = { ...part, ...withNumber(part, name, value, frame) };
  return part as unknown as Placed;
}

/** Sketched while something is dragged, an entry of undo when it is let go. */
export function changeCamera(change: Partial<Orbit>, frame: number, how: "sketch" | "commit"): void {
  const { working, [how]: put } = useSetup.getState();
  const camera = working?.document.placed_camera;
  if (camera) put({ placed_camera: withOrbit(camera, change, frame) });
}
