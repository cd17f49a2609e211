/** Moving a camera that looks at a target: around it, beside it, nearer. Angles in degrees, as in the set-up. */

export interface Orbit {
  azimuth: number;
  elevation: number;
  roll: number;
  distance: number;
  angle: number;
  target_x: number;
  target_y: number;
  target_z: number;
}

/** Degrees that a drag over one pixel turns. */
const TURN = 0.35;

const rad = (degrees: number) => (degrees * Math.PI) / 180;

/** Around the target: what is dragged to the right comes to the right. */
export function orbited(orbit: Orbit, dx: number, dy: number): Partial<Orbit> {
  return {
    azimuth: tidy(orbit.azimuth - dx * TURN),
    elevation: tidy(Math.min(90, Math.max(-90, orbit.elevation + dy * TURN))),
  };
}

/** The target beside where it was, so that the plane through it follows the pointer. ``height``: of the shown frame. */
export function panned(orbit: Orbit, dx: number, dy: number, height: number): Partial<Orbit> {
  const unit = (2 * orbit.distance * Math.tan(rad(orbit.angle) / 2)) / height;
  const { right, up } = axes(orbit);
  const by = (i: number) => (-dx * right[i]! + dy * up[i]!) * unit;
  return {
    target_x: tidy(orbit.target_x + by(0)),
    target_y: tidy(orbit.target_y + by(1)),
    target_z: tidy(orbit.target_z + by(2)),
  };
}

export const nearer = (orbit: Orbit, factor: number): Partial<Orbit> => ({
  distance: tidy(Math.min(1e6, Math.max(1e-5, orbit.distance * factor))),
});

/** The camera's right and up in the world: see `neatveil.scene.placed`. */
function axes({ azimuth, elevation, roll }: Orbit): { right: number[]; up: number[] } {
  const [a, e, r] = [rad(azimuth), rad(elevation), rad(roll)];
  const flat = [Math.cos(a), 0, -Math.sin(a)];
  const steep = [-Math.sin(a) * Math.sin(e), Math.cos(e), -Math.cos(a) * Math.sin(e)];
  const mix = (p: number, q: number) => flat.map((v, i) => v * p + steep[i]! * q);
  return { right: mix(Math.cos(r), -Math.sin(r)), up: mix(Math.sin(r), Math.cos(r)) };
}

/** Six significant digits: numbers that people can read. */
const tidy = (value: number) => Number(value.toPrecision(6));
