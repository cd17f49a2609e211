/** The proof of one delivery as a page: facts, pictures of what the files hold, every frame, every hash. */
import { useQuery } from "@tanstack/react-query";
import { ArrowLeft, Check, Printer, X } from "lucide-react";
import { useState, type ReactNode } from "react";
import { Link, useParams } from "react-router";
import { asProblem, type DeliveryOut } from "../../api/client";
import { queries } from "../../api/queries";
import { rateInWords } from "../../domain/words";
import { Button, Empty, ProblemNote, Waiting } from "../../ui/basics";
import { errorInWords, factsOf, formInWords, framesInWords, historyInWords } from "./proofFacts";
import { text } from "./strings";

const t = text.ProofPage;

/** Rows of the table of frames. */
const MOST_ROWS = 500;

export function ProofPage() {
  const params = useParams();
  const project = Number(params["project"]);
  const delivery = useQuery(queries.delivery(Number(params["delivery"])));
  const info = useQuery(queries.project(project));
  const row = delivery.data;
  const json = row?.files.find((f) => f.endsWith(".proof.json"));
  return (
    <div className="h-full overflow-auto bg-card print:h-auto print:overflow-visible">
      <nav className="flex items-center gap-3 border-b border-line px-6 py-2 print:hidden">
        <Link to={`/projects/${project}/delivery`} className="flex items-center gap-1 hover:underline">
          <ArrowLeft aria-hidden className="size-4" />
          {t.deliveries}
        </Link>
        <span className="flex-1" />
        {json && (
          <a href={`/api/deliveries/${row!.id}/files/${encodeURIComponent(json)}`} className="underline">
            {t.json}
          </a>
        )}
        <Button onClick={() => window.print()}>
          <Printer aria-hidden className="size-4" />
          {t.print}
        </Button>
      </nav>
      <main className="mx-auto max-w-4xl space-y-5 px-6 py-5 print:max-w-none print:p-0">
        {delivery.isPending && <Waiting what={t.lookingForTheProof} />}
        {delivery.error && <ProblemNote problem={asProblem(delivery.error)} />}
        {row && !row.proof && <Empty title={t.noProofYet}>{t.itComesWhenWritten}</Empty>}
        {row?.proof && <WholeProof row={row} project={info.data?.name ?? ""} />}
      </main>
    </div>
  );
}

function WholeProof({ row, project }: { row: DeliveryOut; project: string }) {
  const proof = row.proof!;
  const worst = proof.frames.find((f) => f.frame === proof.worst_frame);
  const shown = [
    ...new Set(
      [proof.frames[0]?.frame, worst?.frame, proof.frames.at(-1)?.frame].filter((n) => n !== undefined),
    ),
  ];
  return (
    <>
      <header>
        <h1 className="text-xl font-semibold [overflow-wrap:anywhere]">{t.proofOf(row.comp_name)}</h1>
        <p className="text-soft">
          {project}, {formInWords(row)}
        </p>
        <p className="num text-soft">
          {framesInWords(row)}, {rateInWords(row.rate)}
        </p>
        <p className="text-soft">{historyInWords(row.job)}</p>
        <p
          className={`mt-2 flex items-center gap-1.5 font-semibold ${row.good ? "text-green" : "text-error"}`}
        >
          {row.good ? <Check aria-hidden className="size-4" /> : <X aria-hidden className="size-4" />}
          {row.good ? t.proved : t.notAsMeant}
        </p>
        {proof.problems.map((problem) => (
          <p key={problem} className="text-error">
            {problem}
          </p>
        ))}
      </header>
      <dl className="grid grid-cols-[7rem_1fr] gap-y-0.5">
        {[
          [t.files, `${row.path}/${row.file}`],
          [t.size, t.pixels(proof.width, proof.height)],
          ...factsOf(row),
        ].map(([label, value]) => (
          <div key={label} className="contents">
            <dt className="text-soft">{label}</dt>
            <dd className="num [overflow-wrap:anywhere]">{value}</dd>
          </div>
        ))}
      </dl>
      <Part title={t.asTheFilesHoldIt}>
        {shown.map((frame) => (
          <figure key={frame} className="mt-2 break-inside-avoid">
            <figcaption className="font-medium">
              {frame === worst?.frame && shown.length > 1 ? t.worst(frame) : t.frame(frame)}
            </figcaption>
            <div className="grid grid-cols-2 gap-3">
              <Picture row={row} frame={frame} shown="checks" label={t.overChecks} />
              <Picture row={row} frame={frame} shown="alpha" label={t.alpha} />
            </div>
          </figure>
        ))}
      </Part>
      {worst && (
        <Part title={t.difference}>
          {worst.colour_error + worst.alpha_error > 0 ? (
            <figure className="break-inside-avoid">
              <figcaption className="mb-1 text-soft">
                {t.frame(worst.frame)}.{" "}
                {t.raised(errorInWords(row, Math.max(worst.colour_error, worst.alpha_error)))}
              </figcaption>
              <Picture row={row} frame={worst.frame} shown="difference" label={t.difference} />
            </figure>
          ) : (
            <p>{t.noDifference}</p>
          )}
        </Part>
      )}
      <Frames row={row} />
      <Part title={t.hashes}>
        <ul className="num mt-1">
          {Object.entries(proof.hashes).map(([file, hash]) => (
            <li key={file} className="flex justify-between gap-4">
              <span className="[overflow-wrap:anywhere]">{file}</span>
              <span className="text-soft">{hash}</span>
            </li>
          ))}
        </ul>
      </Part>
    </>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title}>
    <h2 className="font-semibold">{title}</h2>
    {children}
  </section>
);

type Shown = "checks" | "alpha" | "difference";

interface PictureProps {
  row: DeliveryOut;
  frame: number;
  shown: Shown;
  label: string;
}

function Picture({ row, frame, shown, label }: PictureProps) {
  const [state, setState] = useState<"pending" | "shown" | "failed">("pending");
  const { width, height } = row.proof!;
  return (
    <div className="max-w-[480px]">
      {shown !== "difference" && <p className="text-soft">{label}</p>}
      <div
        className="relative w-full border border-line bg-well"
        style={{ aspectRatio: `${width} / ${Math.max(1, height)}` }}
      >
        {state !== "failed" && (
          <img
            src={`/api/deliveries/${row.id}/proof/picture?frame=${frame}&shown=${shown}`}
            alt={`${t.frame(frame)}, ${label}`}
            className="size-full"
            onLoad={() => setState("shown")}
            onError={() => setState("failed")}
          />
        )}
        {state !== "shown" && (
          <p role="status" className="absolute inset-0 grid place-items-center p-2 text-center text-soft">
            {state === "pending" ? t.reading(label) : t.notRead(label)}
          </p>
        )}
      </div>
    </div>
  );
}

function Frames({ row }: { row: DeliveryOut }) {
  const frames = row.proof!.frames;
  const heads = [t.number, t.colour, t.mean, t.alphaOff, t.range, t.lost, t.clipped, t.fine];
  return (
    <Part title={t.everyFrame}>
      {frames.length > MOST_ROWS && <p className="text-soft">{t.someFrames(MOST_ROWS, frames.length)}</p>}
      <table className="num mt-1 w-full text-right">
        <thead className="text-soft">
          <tr>
            {heads.map((head) => (
              <th key={head} scope="col" className="border-b border-line py-0.5 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {frames.slice(0, MOST_ROWS).map((f) => (
            <tr key={f.frame} className={f.within ? "" : "text-error"}>
              <td>{f.frame}</td>
              <td>{f.colour_error.toFixed(6)}</td>
              <td>{f.colour_mean.toFixed(6)}</td>
              <td>{f.alpha_error.toFixed(6)}</td>
              <td>
                {f.alpha_low.toFixed(3)} {f.alpha_high.toFixed(3)}
              </td>
              <td>{f.lost_light}</td>
              <td>{f.clipped}</td>
              <td>{f.within ? t.yes : t.no}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Part>
  );
}
