/** What is written: a ready format by what it is for, or every part of it by itself. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { FormatOut } from "../../api/client";
import { queries } from "../../api/queries";
import {
  FEW_BITS,
  againstStandard,
  presetOf,
  withCodec,
  type Contents,
  type DeliveryForm,
} from "../../domain/deliveryForm";
import { TRANSFERS } from "../../domain/encoding";
import { colourOf, hexOf } from "../../domain/words";
import { Choose } from "../../ui/Choose";
import { Line } from "../../ui/Line";
import { Segments } from "../../ui/Segments";
import { text } from "./strings";

const t = text.FormChoice;

interface Props {
  formats: readonly FormatOut[];
  form: DeliveryForm;
  onForm: (form: DeliveryForm) => void;
}

export function FormChoice({ formats, form, onForm }: Props) {
  const ready = presetOf(form, formats);
  const [open, setOpen] = useState(ready === null);
  return (
    <fieldset>
      <legend className="mb-0.5 text-soft">{t.format}</legend>
      <div className="space-y-1">
        {formats.map((f) => (
          <label
            key={f.name}
            className="flex gap-2 rounded-md border border-line bg-card px-2.5 py-1 has-checked:border-accent has-checked:bg-accent-soft"
          >
            <input
              type="radio"
              name="format"
              value={f.name}
              checked={ready?.name === f.name}
              onChange={() => onForm(f.form)}
              className="mt-0.5 accent-[var(--accent)]"
            />
            <span>
              <span className="block font-medium">{f.title}</span>
              {ready?.name === f.name && <span className="block text-soft">{f.help}</span>}
            </span>
          </label>
        ))}
      </div>
      <button
        type="button"
        aria-expanded={open}
        className="mt-1.5 text-left text-accent"
        onClick={() => setOpen(!open)}
      >
        {open ? t.fewerChoices : t.allChoices}
      </button>
      {open && <Parts form={form} onForm={onForm} />}
    </fieldset>
  );
}

function Parts({ form, onForm }: Pick<Props, "form" | "onForm">) {
  const codecs = useQuery(queries.transcodeFormats());
  const codec = codecs.data?.find((c) => c.name === form.codec);
  const change = (part: Partial<DeliveryForm>) => onForm({ ...form, ...part });
  if (!codec) return null;
  return (
    <div className="mt-1 space-y-1 rounded-md border border-line bg-card px-2.5 py-1.5">
      <Line label={t.file}>
        <Choose
          name={t.fileFormat}
          value={form.codec}
          options={codecs.data!.map((c) => ({
            value: c.name,
            label: c.title,
            help: c.alpha ? "" : t.noAlpha,
            group: c.kind === "movie" ? t.movies : t.frames,
          }))}
          onChange={(name) =>
            onForm(
              withCodec(
                form,
                codec,
                codecs.data!.find((c) => c.name === name)!,
              ),
            )
          }
        />
      </Line>
      <p className="text-soft">{codec.help}</p>
      <Line label={t.contents}>
        <Segments<Contents>
          name={t.contents}
          tight
          value={form.contents}
          choices={[
            ...(codec.alpha ? [{ value: "rgba" as const, label: t.rgba }] : []),
            { value: "rgb", label: t.rgb },
            { value: "alpha", label: t.alphaAlone },
            { value: "apart", label: t.apart, tip: t.twoFiles },
          ]}
          onChange={(contents) => change({ contents })}
        />
      </Line>
      {form.contents !== "alpha" && <Alpha form={form} change={change} />}
      <Line label={t.encoding}>
        <Choose
          name={t.colourEncoding}
          value={form.encoding}
          options={TRANSFERS}
          onChange={(encoding) => change({ encoding })}
        />
      </Line>
      {codec.bits <= FEW_BITS && (
        <Line label={t.dither} help={t.ditherHelp}>
          <Segments<DeliveryForm["dither"]>
            name={t.dither}
            tight
            value={form.dither}
            choices={[
              { value: "none", label: t.none },
              { value: "stable", label: t.stable, tip: t.stableTip },
              { value: "moving", label: t.moving, tip: t.movingTip },
            ]}
            onChange={(dither) => change({ dither })}
          />
        </Line>
      )}
      {againstStandard(form, codec) && (
        <p role="note" className="text-warn">
          {codec.ending === ".exr" ? t.exrMeansPremultiplied : t.pngMeansStraight}
        </p>
      )}
    </div>
  );
}

interface AlphaProps {
  form: DeliveryForm;
  change: (part: Partial<DeliveryForm>) => void;
}

function Alpha({ form, change }: AlphaProps) {
  return (
    <>
      <Line label={t.alpha}>
        <Segments<DeliveryForm["alpha"]>
          name={t.alpha}
          tight
          value={form.alpha}
          choices={[
            { value: "straight", label: t.straight },
            { value: "premultiplied", label: t.premultiplied },
          ]}
          onChange={(alpha) => change({ alpha })}
        />
      </Line>
      {form.alpha === "straight" ? (
        <Line label={t.pastEdge} help={t.pastEdgeHelp}>
          <input
            type="number"
            aria-label={t.pastEdgePixels}
            min={0}
            max={512}
            value={form.past_edge}
            onChange={(event) => change({ past_edge: within(event.target.valueAsNumber) })}
            className="num h-7 w-16 rounded-md border border-line bg-card px-1.5 text-right"
          />
          <span className="ml-1.5 self-center text-soft">{t.px}</span>
        </Line>
      ) : (
        <>
          <Line label={t.over}>
            <input
              type="color"
              aria-label={t.overColour}
              value={hexOf(form.matte)}
              onChange={(event) => change({ matte: colourOf(event.target.value) ?? form.matte })}
              className="h-7 w-10 rounded-md border border-line bg-card"
            />
            <span className="num ml-2 self-center text-soft">{hexOf(form.matte)}</span>
          </Line>
          {form.encoding !== "linear" && (
            <Line label={t.multiplied}>
              <Segments<DeliveryForm["multiplied"]>
                name={t.multiplied}
                tight
                value={form.multiplied}
                choices={[
                  { value: "linear", label: t.inLinearLight },
                  { value: "encoded", label: t.inEncodedValues },
                ]}
                onChange={(multiplied) => change({ multiplied })}
              />
            </Line>
          )}
        </>
      )}
    </>
  );
}

const within = (pixels: number) =>
  Number.isFinite(pixels) ? Math.min(512, Math.max(0, Math.round(pixels))) : 0;
