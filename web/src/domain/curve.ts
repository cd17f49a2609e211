/** A number over time; the same curve as the core's `animation/curve.py`. */

export interface Key {
  frame: number;
  value: number;
  way: "hold" | "linear" | "smooth" | "eased";
}

export interface Curve {
  keys: Key[];
  beyond: "hold" | "loop" | "ping-pong";
}

/** Slopes at the keys of a cubic that never leaves the range between two neighbours (Fritsch and Butland). */
export function slopesOf(keys: readonly { frame: number; value: number }[]): number[] {
  const count = keys.length;
  if (count === 1) return [0];
  const h = keys.slice(1).map((k, i) => k.frame - keys[i]!.frame);
  const d = keys.slice(1).map((k, i) => (k.value - keys[i]!.value) / h[i]!);
  if (count === 2) return [d[0]!, d[0]!];
  const inner = d.slice(1).map((after, i) => {
    const before = d[i]!;
    if (before * after <= 0) return 0;
    const [w1, w2] = [2 * h[i + 1]! + h[i]!, h[i + 1]! + 2 * h[i]!];
    return (w1 + w2) / (w1 / before + w2 / after);
  });
  const n = h.length;
  return [
    endSlope(h[0]!, h[1]!, d[0]!, d[1]!),
    ...inner,
    endSlope(h[n - 1]!, h[n - 2]!, d[n - 1]!, d[n - 2]!),
  ];
}

function endSlope(h0: number, h1: number, d0: number, d1: number): number {
  const slope = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1);
  if (slope * d0 <= 0) return 0;
  return d0 * d1 <= 0 && Math.abs(slope) > 3 * Math.abs(d0) ? 3 * d0 : slope;
}

export function hermite(t: number, y0: number, y1: number, d0: number, d1: number): number {
  const u = 1 - t;
  return y0 * u * u * (1 + 2 * t) + d0 * t * u * u + y1 * t * t * (1 + 2 * u) - d1 * t * t * u;
}

function folded(curve: Curve, frame: number): number {
  const first = curve.keys[0]!.frame;
  const last = curve.keys[curve.keys.length - 1]!.frame;
  const span = last - first;
  if (curve.beyond === "hold" || span === 0 || (frame >= first && frame <= last)) return frame;
  const turns = Math.floor((frame - first) / span);
  const rest = frame - first - turns * span;
  return curve.beyond === "ping-pong" && Math.abs(turns) % 2 === 1 ? last - rest : first + rest;
}

export function valueAt(curve: Curve, frame: number): number {
  const { keys } = curve;
  const t = folded(curve, frame);
  let index = keys.length - 1;
  while (index >= 0 && keys[index]!.frame > t) index -= 1;
  if (index < 0) return keys[0]!.value;
  const key = keys[index]!;
  const after = keys[index + 1];
  if (!after || key.way === "hold") return key.value;
  const span = after.frame - key.frame;
  const share = (t - key.frame) / span;
  if (key.way === "linear") return key.value + share * (after.value - key.value);
  if (key.way === "eased") return hermite(share, key.value, after.value, 0, 0);
  const slopes = slopesOf(keys);
  return hermite(share, key.value, after.value, slopes[index]! * span, slopes[index + 1]! * span);
}

/** With a key at this frame; one that is there keeps its way. */
export function withKey(curve: Curve | undefined, frame: number, value: number): Curve {
  const old = curve?.keys.find((k) => k.frame === frame);
  const before = curve?.keys.filter((k) => k.frame < frame).at(-1);
  const key: Key = { frame, value, way: old?.way ?? before?.way ?? "smooth" };
  const keys = [...(curve?.keys ?? []).filter((k) => k.frame !== frame), key];
  return { keys: keys.sort((a, b) => a.frame - b.frame), beyond: curve?.beyond ?? "hold" };
}

/** Without the key at this frame; nothing where it was the last. */
export function withoutKey(curve: Curve, frame: number): Curve | undefined {
  const keys = curve.keys.filter((k) => k.frame !== frame);
  return keys.length > 0 ? { ...curve, keys } : undefined;
}

/** A key put elsewhere, as far as its neighbours let it: whole frames, never past one of them. */
export function withMoved(curve: Curve, index: number, frame: number, value: number): Curve {
  const low = (curve.keys[index - 1]?.frame ?? -Infinity) + 1;
  const high = (curve.keys[index + 1]?.frame ?? Infinity) - 1;
  const to = Math.max(low, Math.min(high, Math.round(frame)));
  return { ...curve, keys: curve.keys.map((k, i) => (i === index ? { ...k, frame: to, value } : k)) };
}

export function shifted(curve: Curve, by: number): Curve {
  return { ...curve, keys: curve.keys.map((k) => ({ ...k, frame: k.frame + by })) };
}
