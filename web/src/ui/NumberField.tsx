/** A number that can be typed, dragged, nudged and reset. Change while it moves, commit once. */
import { Slider } from "radix-ui";
import { useId, useRef, useState, type KeyboardEvent, type ReactNode } from "react";
import { trimmed } from "../domain/words";
import { text } from "./strings";

const t = text.NumberField;

export interface NumberProps {
  name: string;
  value: number;
  min?: number;
  max?: number;
  step?: number;
  unit?: string;
  help?: string;
  /** What a double click on the name goes back to. */
  rest?: number;
  /** Ends of the slider; no slider where they are left out. */
  slider?: [number, number];
  digits?: number;
  /** What stands behind the number, such as the sign of its keys. */
  after?: ReactNode;
  onDraft?: (value: number) => void;
  onCommit: (value: number) => void;
}

const held = (value: number, min = -Infinity, max = Infinity) => Math.max(min, Math.min(max, value));

export function NumberField(props: NumberProps) {
  const {
    name,
    value,
    min,
    max,
    step = 0.01,
    unit,
    help,
    rest,
    slider,
    digits = 3,
    after,
    onDraft,
    onCommit,
  } = props;
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const escaped = useRef(false);

  function commitTyped(text: string) {
    const number = Number(text.trim().replace(",", "."));
    setTyped(null);
    if (text.trim() === "" || !Number.isFinite(number)) {
      setWrong(`“${text}” is not a number.`);
      return;
    }
    if (number !== held(number, min, max)) {
      setWrong(t.goesFromTo(name, min ?? "any", max ?? "any"));
      return;
    }
    setWrong(null);
    if (number !== value) onCommit(number);
  }

  function onKey(event: KeyboardEvent<HTMLInputElement>) {
    if (event.key === "Enter") event.currentTarget.blur();
    if (event.key === "Escape") {
      escaped.current = true;
      event.currentTarget.blur();
    }
    if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
    event.preventDefault();
    const size = step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
    const next = held(Number((value + (event.key === "ArrowUp" ? size : -size)).toFixed(6)), min, max);
    setTyped(null);
    setWrong(null);
    onCommit(next);
  }

  return (
    <div>
      <div className="flex min-h-7 items-center gap-2">
        <label
          htmlFor={id}
          title={[help, rest === undefined ? "" : t.doubleClickBackTo(trimmed(rest))]
            .filter(Boolean)
            .join(" ")}
          onDoubleClick={() => rest !== undefined && onCommit(rest)}
          className="w-20 shrink-0 text-soft select-none"
        >
          {name}
        </label>
        {slider && (
          <Slider.Root
            value={[held(value, ...slider)]}
            min={slider[0]}
            max={slider[1]}
            step={step}
            onValueChange={([next]) => next !== undefined && onDraft?.(next)}
            onValueCommit={([next]) => next !== undefined && onCommit(next)}
            className="relative flex h-5 min-w-12 flex-1 touch-none items-center"
          >
            <Slider.Track className="relative h-1 flex-1 rounded-full bg-line">
              <Slider.Range className="absolute h-full rounded-full bg-accent" />
            </Slider.Track>
            <Slider.Thumb
              aria-label={t.slider(name)}
              className="block size-3.5 rounded-full border-2 border-accent bg-card"
            />
          </Slider.Root>
        )}
        <input
          id={id}
          inputMode="decimal"
          value={typed ?? trimmed(value, digits)}
          onChange={(event) => setTyped(event.target.value)}
          onFocus={(event) => event.target.select()}
          onBlur={(event) => {
            if (escaped.current || typed === null) setTyped(null);
            else commitTyped(event.target.value);
            escaped.current = false;
          }}
          onKeyDown={onKey}
          aria-invalid={wrong !== null}
          className={`num h-6 min-w-0 rounded-md border bg-card px-1.5 text-right ${slider ? (after ? "w-15 shrink-0" : "w-16 shrink-0") : "flex-1"} ${wrong ? "border-error" : "border-line"}`}
        />
        {unit && (
          <span className={`${after ? "-mx-1 w-5 text-center" : "w-6"} shrink-0 text-soft`}>{unit}</span>
        )}
        {after}
      </div>
      {wrong && (
        <p role="alert" className="pl-22 text-error">
          {wrong}
        </p>
      )}
    </div>
  );
}
