/** How stored RGB and alpha are read. Every change is committed at once and can be taken back. */
import { Pipette } from "lucide-react";
import { useState } from "react";
import type { Encoding, Reading } from "../domain/comp";
import {
  PRIMARIES,
  TRANSFERS,
  encodingOf,
  isSpace,
  partsOfEncoding,
  transferInWords,
} from "../domain/encoding";
import { colourOf, hexOf } from "../domain/words";
import { Button } from "../ui/basics";
import { Choose, type Option } from "../ui/Choose";
import { Segments } from "../ui/Segments";
import { text } from "./strings";

const t = text.ReadingEditor;

interface Props {
  reading: Reading;
  encoding: Encoding;
  hasAlpha: boolean;
  onReading: (reading: Reading) => void;
  onEncoding: (encoding: Encoding) => void;
  picking: boolean;
  onPicking: (on: boolean) => void;
  /** Spaces of colour configurations, offered besides the plain encodings. */
  spaces?: Option[];
}

type Over = "black" | "white" | "colour";

function overOf(matte: readonly number[]): Over {
  const hex = hexOf(matte);
  return hex === "#000000" ? "black" : hex === "#ffffff" ? "white" : "colour";
}

function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-16 shrink-0 text-soft">{label}</span>
      <div className="flex min-w-0 flex-1 flex-wrap items-center gap-1.5">{children}</div>
    </div>
  );
}

export function ReadingEditor({
  reading,
  encoding,
  hasAlpha,
  onReading,
  onEncoding,
  picking,
  onPicking,
  spaces = [],
}: Props) {
  const [colour, setColour] = useState(false);
  const over: Over = colour ? "colour" : overOf(reading.matte);
  const parts = partsOfEncoding(encoding);
  const known: Option[] = [...TRANSFERS, ...spaces];
  const transfers = known.some((t) => t.value === parts.transfer)
    ? known
    : [...known, { value: parts.transfer, label: transferInWords(parts.transfer) }];
  const change = (part: Partial<Reading>) => onReading({ ...reading, ...part });
  return (
    <div className="space-y-1.5">
      {hasAlpha ? (
        <>
          <Line label={t.alpha}>
            <Segments
              name={t.alphaIsReadAs}
              small
              value={reading.alpha}
              choices={[
                { value: "straight", label: t.straight, tip: t.rgbIsTheSurfaceColour },
                {
                  value: "premultiplied",
                  label: t.premultiplied,
                  tip: t.rgbWasMultipliedByAlpha,
                },
                { value: "none", label: t.ignored, tip: t.thePictureIsOpaque },
              ]}
              onChange={(alpha) => change({ alpha })}
            />
          </Line>
          {reading.alpha === "premultiplied" && (
            <>
              <Line label={t.over}>
                <Segments<Over>
                  name={t.matteColour}
                  small
                  value={over}
                  choices={[
                    { value: "black", label: t.black },
                    { value: "white", label: t.white },
                    { value: "colour", label: t.colour },
                  ]}
                  onChange={(next) => {
                    setColour(next === "colour");
                    if (next === "black") change({ matte: [0, 0, 0] });
                    if (next === "white") change({ matte: [1, 1, 1] });
                  }}
                />
                {over === "colour" && (
                  <MatteColour matte={reading.matte} onMatte={(matte) => change({ matte })} />
                )}
                {over === "colour" && (
                  <Button
                    aria-pressed={picking}
                    onClick={() => onPicking(!picking)}
                    className={picking ? "border-accent text-accent" : ""}
                  >
                    <Pipette className="size-3.5" /> {picking ? t.clickInThePicture : t.pick}
                  </Button>
                )}
              </Line>
              <Line label={t.multiplied}>
                <Segments
                  name={t.multiplied2}
                  small
                  value={reading.multiplied}
                  choices={[
                    {
                      value: "linear",
                      label: t.inLinearLight,
                      tip: t.multipliedBeforeTheColourWas,
                    },
                    {
                      value: "encoded",
                      label: t.inEncodedValues,
                      tip: t.multipliedAfterTheColourWas,
                    },
                  ]}
                  onChange={(multiplied) => change({ multiplied })}
                />
              </Line>
            </>
          )}
          {reading.alpha !== "none" && (
            <Line label={t.inverted}>
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={reading.inverted}
                  onChange={(event) => change({ inverted: event.target.checked })}
                  className="size-4 accent-[var(--accent)]"
                />
                {t.alphaIs1WhereIt}
              </label>
            </Line>
          )}
        </>
      ) : (
        <p className="text-soft">{t.itHasNoAlphaIt}</p>
      )}
      <Line label={t.encoding}>
        <Choose
          name={t.colourEncoding}
          value={parts.transfer}
          options={transfers}
          onChange={(transfer) => onEncoding(encodingOf({ ...parts, transfer }))}
        />
      </Line>
      {!isSpace(encoding) && (
        <Line label={t.primaries}>
          <Choose
            name={t.primaries2}
            value={parts.primaries}
            options={PRIMARIES}
            onChange={(primaries) => onEncoding(encodingOf({ ...parts, primaries }))}
          />
        </Line>
      )}
    </div>
  );
}

function MatteColour({
  matte,
  onMatte,
}: {
  matte: readonly number[];
  onMatte: (m: [number, number, number]) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = (text: string) => {
    setTyped(null);
    const colour = colourOf(text);
    if (colour && hexOf(colour) !== hexOf(matte)) onMatte(colour);
  };
  return (
    <span className="flex items-center gap-1">
      <span aria-hidden className="size-5 rounded border border-line" style={{ background: hexOf(matte) }} />
      <input
        aria-label={t.matteColourHexadecimalCodeValues}
        value={typed ?? hexOf(matte)}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={(event) => commit(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="num h-6 w-20 rounded-md border border-line bg-card px-1.5"
      />
    </span>
  );
}
