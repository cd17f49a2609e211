/** The numbers under the pointer: stored, straight and result, in float and in 8-bit code values. */
import { useEffect, useRef, useState } from "react";
import { client, take, type SampleOut } from "../api/client";
import type { CompAsk, ElementAsk } from "../api/pictures";
import { useSame } from "../ui/useSame";
import { text } from "./strings";

const t = text.Values;

type Numbers = readonly number[] | null | undefined;

function Row({
  label,
  values,
  digits,
  help,
}: {
  label: string;
  values: Numbers;
  digits: number;
  help: string;
}) {
  return (
    <tr title={help}>
      <th scope="row" className="py-0.5 text-left font-normal text-soft">
        {label}
      </th>
      {[0, 1, 2, 3].map((i) => (
        <td key={i} className="num py-0.5 text-right">
          {values ? (values[i] ?? 0).toFixed(digits) : "–"}
        </td>
      ))}
    </tr>
  );
}

export function Values({ point, sample }: { point: [number, number] | null; sample: SampleOut | null }) {
  const shown = point ? sample : null;
  return (
    <section aria-label={t.valuesUnderThePointer} className="px-3 py-2">
      <div className="flex items-baseline justify-between">
        <h2 className="font-semibold">{t.values}</h2>
        <span className="num text-soft">{point ? `x ${point[0]}  y ${point[1]}` : t.pointAtThePicture}</span>
      </div>
      <table className="mt-1 w-full">
        <thead>
          <tr className="text-right">
            <td className="w-16" />
            <th className="font-medium text-red">R</th>
            <th className="font-medium text-green">G</th>
            <th className="font-medium text-blue">B</th>
            <th className="font-medium">A</th>
          </tr>
        </thead>
        <tbody>
          <Row label={t.stored} values={shown?.stored} digits={4} help={t.whatTheFileHoldsHere} />
          <Row label={t.straight} values={shown?.straight} digits={4} help={t.surfaceColourCALinear} />
          <Row
            label={t.premult}
            values={shown?.result}
            digits={4}
            help={t.premultipliedOverBlackLinearLight}
          />
          <Row label={t.eightBit} values={shown?.code} digits={0} help={t.straightColourAsSrgbCode} />
        </tbody>
      </table>
    </section>
  );
}

/** Asks for the values at a point, the newest wish first, a few times a second at most. */
export function useSample(
  kind: "comp" | "element",
  id: number,
  ask: CompAsk | ElementAsk | null,
  point: [number, number] | null,
): SampleOut | null {
  const [sample, setSample] = useState<SampleOut | null>(null);
  const busy = useRef(false);
  type Wish = (CompAsk | ElementAsk) & { x: number; y: number };
  const next = useRef<Wish | null>(null);
  const wish = useSame<Wish | null>(ask && point && { ...ask, region: null, x: point[0], y: point[1] });
  useEffect(() => {
    next.current = wish;
    if (wish === null || busy.current) return;
    const run = async () => {
      busy.current = true;
      while (next.current !== null) {
        const body = next.current as never;
        next.current = null;
        try {
          setSample(
            await take<SampleOut>(
              kind === "comp"
                ? client.POST("/api/comps/{comp_id}/values", { params: { path: { comp_id: id } }, body })
                : client.POST("/api/elements/{element_id}/values", {
                    params: { path: { element_id: id } },
                    body,
                  }),
            ),
          );
        } catch {
          setSample(null); // the picture itself says what is wrong
        }
      }
      busy.current = false;
    };
    void run();
  }, [wish, kind, id]);
  return sample;
}
