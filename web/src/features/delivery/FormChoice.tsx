/** What is written: a ready format by what it is for, or every part of it by itself. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Minus, Plus, X } from "lucide-react";
import { useState } from "react";
import type { FormatOut } from "../../api/client";
import { orderCalls, type DeliveryPreset } from "../../api/orders";
import { queries } from "../../api/queries";
import {
  FEW_BITS,
  againstStandard,
  presetOf,
  withCodec,
  type Contents,
  type DeliveryForm,
} from "../../domain/deliveryForm";
import { WRITTEN } from "../../domain/encoding";
import { isPreset, withPreset, type OrderDraft } from "../../domain/order";
import { colourOf, hexOf } from "../../domain/words";
import { useSpaces } from "../../parts/useSpaces";
import { SignButton } from "../../ui/basics";
import { Choose } from "../../ui/Choose";
import { Line } from "../../ui/Line";
import { Tick } from "../../ui/Tick";
import { Segments } from "../../ui/Segments";
import { PURPOSES, text } from "./strings";

const t = text.FormChoice;

interface Props {
  project: number;
  formats: readonly FormatOut[];
  draft: OrderDraft;
  onDraft: (draft: OrderDraft) => void;
}

export function FormChoice({ project, formats, draft, onDraft }: Props) {
  const presets = useQuery(queries.deliveryPresets(project));
  const [form] = draft.forms;
  const kept = presets.data?.find((p) => isPreset(draft, p));
  const ready = draft.forms.map((f) => presetOf(f, formats));
  const [open, setOpen] = useState(false);
  const parts = open || (!kept && ready.some((f) => f === null));
  const purposes = Object.keys(PURPOSES) as FormatOut["purpose"][];
  const toggle = (f: FormatOut) => {
    const others = draft.forms.filter((_, i) => ready[i]?.name !== f.name);
    const forms = others.length < draft.forms.length ? others : [...draft.forms, f.form];
    if (forms.length > 0) onDraft({ ...draft, forms });
  };
  return (
    <fieldset>
      <legend className="mb-0.5 text-soft">{t.format}</legend>
      <div className="space-y-1.5">
        {purposes.map((purpose) => (
          <div key={purpose}>
            <p className="text-soft">{PURPOSES[purpose]}</p>
            <div className="overflow-hidden rounded-md border border-line bg-card">
              {presets.data
                ?.filter((p) => p.purpose === purpose)
                .map((p) => (
                  <PresetRow
                    key={p.id}
                    preset={p}
                    project={project}
                    chosen={kept?.id === p.id}
                    onChoose={() => onDraft(withPreset(draft, p))}
                  />
                ))}
              {formats
                .filter((f) => f.purpose === purpose)
                .map((f) => (
                  <FormatRow
                    key={f.name}
                    format={f}
                    chosen={!kept && ready.some((r) => r?.name === f.name)}
                    alone={draft.forms.length === 1}
                    onChoose={() => onDraft({ ...draft, forms: [f.form] })}
                    onToggle={() => toggle(f)}
                  />
                ))}
            </div>
          </div>
        ))}
      </div>
      {draft.forms.length > 1 ? (
        <p className="mt-1.5 text-soft">{t.severalForms(draft.forms.length)}</p>
      ) : (
        <>
          <button
            type="button"
            aria-expanded={parts}
            className="mt-1.5 text-left text-accent"
            onClick={() => setOpen(!parts)}
          >
            {parts ? t.fewerChoices : t.allChoices}
          </button>
          {parts && form && <Parts form={form} onForm={(f) => onDraft({ ...draft, forms: [f] })} />}
        </>
      )}
    </fieldset>
  );
}

const ROW =
  "flex items-center gap-2 border-b border-line pr-1 pl-2.5 last:border-b-0 has-[input[type=radio]:checked]:bg-accent-soft";

interface FormatRowProps {
  format: FormatOut;
  chosen: boolean;
  /** Whether only one goes out. */
  alone: boolean;
  onChoose: () => void;
  onToggle: () => void;
}

function FormatRow({ format, chosen, alone, onChoose, onToggle }: FormatRowProps) {
  return (
    <div className={ROW}>
      <label className="flex min-w-0 flex-1 gap-2 py-1">
        <input
          type="radio"
          name={`format-${format.name}`}
          value={format.name}
          checked={chosen}
          onChange={onChoose}
          className="mt-0.5 accent-[var(--accent)]"
        />
        <span className="min-w-0">
          <span className="block font-medium">{format.title}</span>
          {chosen && alone && <span className="block text-soft">{format.help}</span>}
        </span>
      </label>
      {!(chosen && alone) && (
        <SignButton
          name={chosen ? t.notThis(format.title) : t.thisToo(format.title)}
          className="min-h-6 py-0"
          onClick={onToggle}
        >
          {chosen ? <Minus aria-hidden className="size-3.5" /> : <Plus aria-hidden className="size-3.5" />}
        </SignButton>
      )}
    </div>
  );
}

interface PresetRowProps {
  preset: DeliveryPreset;
  project: number;
  chosen: boolean;
  onChoose: () => void;
}

function PresetRow({ preset, project, chosen, onChoose }: PresetRowProps) {
  const cache = useQueryClient();
  const forget = useMutation({
    mutationFn: () => orderCalls.forget(preset.id),
    onSettled: () => cache.invalidateQueries({ queryKey: ["jobs", project, "delivery-presets"] }),
  });
  return (
    <div className={ROW}>
      <label className="flex min-w-0 flex-1 gap-2 py-1">
        <input
          type="radio"
          name={`preset-${preset.id}`}
          checked={chosen}
          onChange={onChoose}
          className="mt-0.5 accent-[var(--accent)]"
        />
        <span className="min-w-0">
          <span className="block font-medium [overflow-wrap:anywhere]">{preset.name}</span>
          <span className="block text-soft">{preset.own ? t.myOwnPreset : t.theProjectsPreset}</span>
        </span>
      </label>
      <SignButton
        name={t.forgetPreset(preset.name)}
        disabled={forget.isPending}
        className="min-h-6 py-0"
        onClick={() => forget.mutate()}
      >
        <X aria-hidden className="size-3.5" />
      </SignButton>
    </div>
  );
}

function Parts({ form, onForm }: { form: DeliveryForm; onForm: (form: DeliveryForm) => void }) {
  const codecs = useQuery(queries.transcodeFormats());
  const { spaces, views } = useSpaces();
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
      {codec.compressions.length > 0 && (
        <Line label={t.compression}>
          <Choose
            name={t.compression}
            value={form.compression || codec.compression}
            options={codec.compressions.map((c) => ({ value: c.name, label: c.label }))}
            onChange={(name) => change({ compression: name === codec.compression ? "" : name })}
          />
        </Line>
      )}
      {codec.ending === ".exr" && (
        <Line label={t.stored}>
          <div>
            <Tick
              label={t.inTiles}
              help={t.inTilesHelp}
              checked={form.tiles}
              onChange={(tiles) => change({ tiles })}
            />
            <Tick
              label={t.inParts}
              help={t.inPartsHelp}
              checked={form.multipart}
              onChange={(multipart) => change({ multipart })}
            />
          </div>
        </Line>
      )}
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
          options={[...WRITTEN, ...spaces, ...views.map((v) => ({ ...v, group: t.through(v.group ?? "") }))]}
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
      {form.alpha === "straight" && (
        <Line label={t.light} help={t.lightHelp}>
          <Segments<DeliveryForm["light"]>
            name={t.light}
            tight
            value={form.light}
            choices={[
              { value: "lost", label: t.lightLost },
              { value: "raised", label: t.lightRaised, tip: t.lightRaisedTip },
            ]}
            onChange={(light) => change({ light })}
          />
        </Line>
      )}
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
