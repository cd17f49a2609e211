/** The sections of a set-up: each part of it, in the order in which a render is thought of. */
import type { ReactNode } from "react";
import type { RenderSetup, SceneFacts } from "../../api/scenes";
import { codeOfLight, lightOfCode } from "../../domain/light";
import { colourOf, hexOf, rateInWords } from "../../domain/words";
import { Choose } from "../../ui/Choose";
import { Line } from "../../ui/Line";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import { Tick } from "../../ui/Tick";
import { useSetup } from "./setupStore";
import { text } from "./strings";

const t = text.sections;

export interface SectionProps {
  setup: RenderSetup;
  facts: SceneFacts;
}

export function SetupSection({
  title,
  says,
  children,
}: {
  title: string;
  says: string;
  children: ReactNode;
}) {
  return (
    <details className="group border-b border-line" name="set-up">
      <summary className="flex cursor-pointer items-baseline gap-2 px-3 py-2 hover:bg-well">
        <span className="w-20 shrink-0 font-semibold">{title}</span>
        <span className="min-w-0 flex-1 truncate text-soft group-open:invisible">{says}</span>
      </summary>
      <div className="space-y-1.5 px-3 pb-3">{children}</div>
    </details>
  );
}

export function FramesSection({ setup }: SectionProps) {
  const commit = useSetup((s) => s.commit);
  const whole = (name: keyof RenderSetup, min: number, max: number) => ({
    value: setup[name] as number,
    min,
    max,
    step: 1,
    digits: 0,
    onCommit: (value: number) => commit({ [name]: Math.round(value) }),
  });
  return (
    <SetupSection
      title={t.frames}
      says={t.xTo(setup.width, setup.height, setup.first, setup.last, rateInWords(setup.rate))}
    >
      <div className="grid grid-cols-2 gap-x-3">
        <NumberField name={t.first} {...whole("first", -1e6, setup.last)} />
        <NumberField name={t.last} {...whole("last", setup.first, setup.first + 99_999)} />
        <NumberField name={t.width} {...whole("width", 1, 32768)} />
        <NumberField name={t.height} {...whole("height", 1, 32768)} />
      </div>
      <Line label={t.rate}>
        <Choose
          name={t.frameRateFps}
          value={setup.rate}
          options={[...new Set([setup.rate, "24", "24000/1001", "25", "30", "30000/1001", "50", "60"])].map(
            (rate) => ({
              value: rate,
              label: rateInWords(rate),
            }),
          )}
          onChange={(rate) => commit({ rate })}
        />
      </Line>
    </SetupSection>
  );
}

export function QualitySection({ setup }: SectionProps) {
  const { commit, sketch } = useSetup.getState();
  const draft = setup.use === "draft";
  return (
    <SetupSection title={t.quality} says={draft ? "draft" : t.finalRaysAPixel(setup.samples)}>
      <Line label={t.render}>
        <Segments
          name={t.preset}
          value={setup.use}
          choices={[
            { value: "draft", label: t.draft, tip: t.smallCoarseAndFastGood },
            { value: "final", label: t.final, tip: t.fullSizeCleanEdges },
          ]}
          onChange={(use) => commit({ use })}
        />
      </Line>
      <NumberField
        name={draft ? t.draftRays : t.rays}
        unit="/px"
        value={draft ? setup.draft.samples : setup.samples}
        min={1}
        max={4096}
        step={1}
        digits={0}
        rest={draft ? 2 : 16}
        onCommit={(value) =>
          commit(
            draft
              ? { draft: { ...setup.draft, samples: Math.round(value) } }
              : { samples: Math.round(value) },
          )
        }
      />
      <NumberField
        name={t.noiseLimit}
        help={t.noMoreRaysOnceThe}
        value={setup.noise}
        min={0}
        max={1}
        step={0.005}
        rest={0}
        slider={[0, 0.1]}
        onDraft={(noise) => sketch({ noise })}
        onCommit={(noise) => commit({ noise })}
      />
      <Line label={t.filter}>
        <Segments
          name={t.pixelFilter}
          value={setup.pixel_filter}
          choices={[
            { value: "box", label: t.box, tip: t.thePixelsSquarePassesAdd },
            { value: "triangle", label: t.triangle },
            { value: "gaussian", label: t.gaussian, tip: t.softerReachesIntoNeighbours },
          ]}
          onChange={(pixel_filter) => commit({ pixel_filter })}
        />
      </Line>
    </SetupSection>
  );
}

export function AlphaSection({ setup }: SectionProps) {
  const commit = useSetup((s) => s.commit);
  const seen = setup.environment?.visible ?? false;
  const hex = hexOf(codeOfLight(setup.over));
  const says = seen
    ? t.straightTheEnvironmentIsIn
    : setup.alpha === "straight"
      ? "straight"
      : t.premultipliedOver(hex === "#000000" ? "black" : hex);
  return (
    <SetupSection title={t.alpha} says={says + (setup.refraction_in_alpha ? "" : t.glassOpaque)}>
      {seen ? (
        <p className="text-soft">{t.theEnvironmentIsVisibleSo}</p>
      ) : (
        <>
          <Line label={t.stored}>
            <Segments
              name={t.alpha}
              value={setup.alpha}
              choices={[
                { value: "premultiplied", label: t.premultiplied },
                {
                  value: "straight",
                  label: t.straight,
                  tip: t.lightWhereAlphaIs0,
                },
              ]}
              onChange={(alpha) => commit(alpha === "straight" ? { alpha, over: [0, 0, 0] } : { alpha })}
            />
          </Line>
          {setup.alpha === "premultiplied" && (
            <Line label={t.over}>
              <input
                type="color"
                aria-label={t.colourItIsLaidOver}
                value={hex}
                onChange={(event) => {
                  const code = colourOf(event.target.value);
                  if (code) commit({ over: lightOfCode(code) });
                }}
                className="h-7 w-10 rounded border border-line bg-card p-0.5"
              />
              <span className="num ml-2 self-center text-soft">{hex}</span>
            </Line>
          )}
        </>
      )}
      <Tick
        label={t.whatIsBehindShowsThrough}
        checked={setup.refraction_in_alpha}
        onChange={(refraction_in_alpha) => commit({ refraction_in_alpha })}
        help={t.offGlassComesOutOpaque}
      />
      {setup.shadow_catchers.length > 0 && (
        <Line label={t.shadows}>
          <Segments
            name={t.shadowsOfShadowCatchers}
            value={setup.shadows}
            choices={[
              { value: "separate-pass", label: t.separatePass, tip: t.inThePassCaughtOnly },
              { value: "in-alpha", label: t.inAlpha, tip: t.asBlackInTheBeautys },
            ]}
            onChange={(shadows) => commit({ shadows })}
          />
        </Line>
      )}
    </SetupSection>
  );
}
