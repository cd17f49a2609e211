/** What an order would write, what its form cannot hold, and how it will look: before it is given. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { asProblem, type Problem } from "../../api/client";
import { orderCalls, type Advice, type OrderCheckOut, type OrderIn, type Shown } from "../../api/orders";
import { Button, ProblemNote } from "../../ui/basics";
import { Segments } from "../../ui/Segments";
import { text } from "./strings";

const t = text.OrderAdvice;

/** Typing has to rest so long before the server is asked. */
const REST = 350;

export interface Looked {
  check: OrderCheckOut | undefined;
  problem: Problem | null;
  looking: boolean;
}

/** The server's word on an order: at once what would be written, and then what is lost of its frames. */
export function useCheck(project: number, body: OrderIn | null): Looked {
  const rested = useRested(body);
  const asked = JSON.stringify(rested);
  const query = (look: boolean) => ({
    queryKey: ["order-check", project, asked, look],
    queryFn: ({ signal }: { signal: AbortSignal }) => orderCalls.check(project, rested!, look, signal),
    enabled: rested !== null,
    staleTime: 5000,
    retry: false,
  });
  const quick = useQuery(query(false));
  const full = useQuery({ ...query(true), enabled: rested !== null && quick.data?.problem === null });
  const failed = quick.error ?? full.error;
  return {
    check: full.data ?? quick.data,
    problem: failed ? asProblem(failed) : ((full.data ?? quick.data)?.problem ?? null),
    looking: full.isFetching,
  };
}

function useRested(body: OrderIn | null): OrderIn | null {
  const [rested, setRested] = useState(body);
  const key = JSON.stringify(body);
  useEffect(() => {
    const timer = setTimeout(() => setRested(body), REST);
    return () => clearTimeout(timer);
    // the body is made anew with every picture of the page; what it says is not
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return rested;
}

interface Props extends Looked {
  project: number;
  body: OrderIn | null;
  onRepair: (repair: Advice["repairs"][number]) => void;
}

export function OrderAdvice({ project, body, check, problem, looking, onRepair }: Props) {
  return (
    <section aria-label={t.beforeItStarts} className="space-y-2">
      {check && check.names.length > 0 && <Names check={check} />}
      {check?.advice.map((advice) => (
        <AdviceNote key={advice.message} advice={advice} onRepair={onRepair} />
      ))}
      {problem && !check?.advice.some((a) => a.weight === "refused") && <ProblemNote problem={problem} />}
      {looking && (
        <p role="status" className="text-soft">
          {t.lookingAtFrames}
        </p>
      )}
      {body && check && !problem && <Looks project={project} body={body} check={check} />}
    </section>
  );
}

function Names({ check }: { check: OrderCheckOut }) {
  const [first] = check.names;
  const files = check.names.reduce((sum, n) => sum + n.count, 0);
  return (
    <div>
      <p className="text-soft">{check.count > 1 ? t.deliveries(check.count) : t.wouldBe(files)}</p>
      <ul className="num [overflow-wrap:anywhere]">
        {check.names.slice(0, 4).map((n) => (
          <li key={`${n.folder}/${n.first}`}>
            <span className="text-soft">{n.folder}/</span>
            <wbr />
            {n.count > 1 ? t.to(n.first, n.last) : n.first}
          </li>
        ))}
        {check.count > 4 && <li className="text-soft">{t.andMore(check.count - 4)}</li>}
      </ul>
      {first?.words && <p className="text-soft">{first.words}</p>}
      {check.taken.length > 0 && <p className="text-error">{t.isThere(check.taken[0]!)}</p>}
    </div>
  );
}

const WEIGHTS: Record<Advice["weight"], string> = {
  refused: "border-error",
  lost: "border-warn",
  told: "border-line",
};

function AdviceNote({ advice, onRepair }: { advice: Advice; onRepair: Props["onRepair"] }) {
  return (
    <div role="note" className={`rounded-md border-l-2 bg-card py-1 pr-2 pl-2.5 ${WEIGHTS[advice.weight]}`}>
      <p className={advice.weight === "told" ? "text-soft" : ""}>{advice.message}</p>
      {advice.repairs.length > 0 && (
        <div className="mt-1 flex flex-wrap gap-1.5">
          {advice.repairs.map((repair) => (
            <Button key={repair.label} onClick={() => onRepair(repair)}>
              {repair.label}
            </Button>
          ))}
        </div>
      )}
    </div>
  );
}

/** How it will look: with its alpha, where that is ignored, and what dither makes of a gradient. */
function Looks({ project, body, check }: { project: number; body: OrderIn; check: OrderCheckOut }) {
  const [shown, setShown] = useState<Shown>("checks");
  const few = check.advice.some((a) => a.what === "bits") || body.forms?.some((f) => f.dither !== "none");
  const asked = few || shown === "checks" || shown === "ignored" ? shown : "checks";
  const picture = useQuery({
    queryKey: ["order-picture", project, JSON.stringify(body), asked],
    queryFn: ({ signal }) => orderCalls.picture(project, body, asked, signal),
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  });
  const shownNow = picture.data;
  useEffect(
    () => () => {
      if (shownNow) URL.revokeObjectURL(shownNow);
    },
    [shownNow],
  );
  return (
    <div>
      <Segments<Shown>
        name={t.howItLooks}
        small
        value={asked}
        choices={[
          { value: "checks", label: t.overChecks },
          { value: "ignored", label: t.alphaIgnored, tip: t.alphaIgnoredTip },
          ...(few
            ? [
                { value: "bands" as const, label: t.bands, tip: t.bandsTip },
                { value: "dithered" as const, label: t.dithered, tip: t.ditheredTip },
              ]
            : []),
        ]}
        onChange={setShown}
      />
      <div className="mt-1 aspect-video overflow-hidden rounded-md border border-line bg-well">
        {picture.data && (
          <img src={picture.data} alt={t.pictureOf} className="h-full w-full object-contain" />
        )}
        {picture.error && <p className="p-2 text-soft">{asProblem(picture.error).message}</p>}
      </div>
    </div>
  );
}
