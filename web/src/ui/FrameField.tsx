/** The number of the frame, to be typed. */
import { useState } from "react";
import { text } from "./strings";

const t = text.FrameField;

interface Props {
  frame: number;
  onGo: (frame: number) => void;
  name?: string;
}

export function FrameField({ frame, onGo, name = t.frame }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <input
      aria-label={name}
      inputMode="numeric"
      value={typed ?? String(frame)}
      onChange={(event) => setTyped(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={() => {
        const number = Number(typed);
        if (typed !== null && typed.trim() !== "" && Number.isFinite(number)) onGo(number);
        setTyped(null);
      }}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      className="num h-6 w-14 rounded-md border border-line bg-card px-1.5 text-right"
    />
  );
}
