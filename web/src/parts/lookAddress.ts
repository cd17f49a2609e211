/** How a picture is looked at, as the address holds it: a reload, a link and the next picture show the same. */
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import type { Look } from "../api/pictures";
import { colourOf, hexOf } from "../domain/words";
import { CHANNEL_KEYS, FIRST_LOOK } from "./LookBar";

const NAMES = ["show", "over", "exposure", "gamma", "through", "colour"];
/** Milliseconds that a look rests before the address is written. */
const REST = 250;

/** What differs from the look that every desk begins with. */
export function lookToParams(look: Look): Record<string, string> {
  const params: Record<string, string> = {};
  if (look.channel !== FIRST_LOOK.channel) params["show"] = look.channel;
  if (look.background !== FIRST_LOOK.background) params["over"] = look.background;
  if (look.exposure !== 0) params["exposure"] = String(look.exposure);
  if (look.gamma !== 1) params["gamma"] = String(look.gamma);
  if (look.through) params["through"] = look.through;
  if (look.background === "colour") params["colour"] = hexOf(look.colour).slice(1);
  return params;
}

export function lookFromParams(params: URLSearchParams): Look {
  const channel = CHANNEL_KEYS.find((c) => c === params.get("show"));
  const background = (["checks", "black", "white", "colour"] as const).find((b) => b === params.get("over"));
  return {
    channel: channel ?? FIRST_LOOK.channel,
    background: background ?? FIRST_LOOK.background,
    colour: colourOf(params.get("colour") ?? "") ?? FIRST_LOOK.colour,
    exposure: numberIn(params, "exposure", -20, 20) ?? 0,
    gamma: numberIn(params, "gamma", 0.1, 10) ?? 1,
    through: params.get("through") ?? "",
  };
}

/** A number of the address, where it is one within its range. */
function numberIn(params: URLSearchParams, name: string, least: number, most: number): number | null {
  const value = Number(params.get(name) ?? "x");
  return value >= least && value <= most ? value : null;
}

/** The look of a desk: begins with that of the address, which is written a moment after it rests. */
export function useLookOfAddress(): [Look, (look: Look) => void] {
  const [params, setParams] = useSearchParams();
  const [look, setLook] = useState(() => lookFromParams(params));
  const [changed, setChanged] = useState(false);
  useEffect(() => {
    if (!changed) return;
    const timer = window.setTimeout(() => {
      setParams(
        (old) => {
          const others = [...old].filter(([name]) => !NAMES.includes(name));
          return { ...Object.fromEntries(others), ...lookToParams(look) };
        },
        { replace: true },
      );
      setChanged(false);
    }, REST);
    return () => window.clearTimeout(timer);
  }, [look, changed, setParams]);
  return [
    look,
    (next) => {
      setLook(next);
      setChanged(true);
    },
  ];
}
