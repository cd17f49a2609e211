/** One delivery: its progress, what went wrong, and its proof. */
import { Check, Download, X } from "lucide-react";
import { useState } from "react";
import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { asProblem, type DeliveryOut } from "../../api/client";
import { orderCalls } from "../../api/orders";
import { hasEnded } from "../../api/jobs";
import { rateInWords } from "../../domain/words";
import { JobButtons, JobProgress, stateInWords, useSteer } from "../../parts/job";
import { Button, ProblemNote } from "../../ui/basics";
import { factsOf, formInWords, framesInWords, historyInWords } from "./proofFacts";
import { text } from "./strings";

const t = text.DeliveryCard;

interface Props {
  row: DeliveryOut;
  project: number;
  /** How many forms its job writes; none where the card of another form shows the job. */
  forms?: number | null;
}

export function DeliveryCard({ row, project, forms = 1 }: Props) {
  const { steer, busy, problem } = useSteer(row.job, project);
  const name = t.deliveryOf(row.comp_name);
  return (
    <li
      aria-label={`${name}, ${row.format_title}`}
      data-state={row.job.state}
      className="rounded-lg border border-line bg-card p-3"
    >
      <div className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <p className="font-semibold [overflow-wrap:anywhere]">
            {row.comp_name} <span className="font-normal text-soft">{formInWords(row)}</span>
          </p>
          <p className="num text-soft [overflow-wrap:anywhere]">
            {t.to(framesInWords(row), rateInWords(row.rate), row.folder, row.file)}
          </p>
          <p className="text-soft">{historyInWords(row.job)}</p>
        </div>
        <StateMark row={row} />
        {forms !== null && <JobButtons job={row.job} stays={t.whatStays} steer={steer} busy={busy} />}
      </div>
      {forms !== null && forms > 1 && <p className="text-soft">{t.oneJob(forms)}</p>}
      {forms !== null && !hasEnded(row.job) && (
        <div className="mt-2">
          <JobProgress job={row.job} name={name} written="written" checked="proved" />
        </div>
      )}
      {(forms === null ? [] : [row.job.problem, problem]).map(
        (p, i) =>
          p && (
            <div key={i} className="mt-2">
              <ProblemNote problem={p} />
            </div>
          ),
      )}
      {row.proof && <ProofTable row={row} project={project} />}
    </li>
  );
}

function StateMark({ row }: { row: DeliveryOut }) {
  if (row.job.state !== "done") return <span className="py-1 text-soft">{stateInWords(row.job)}</span>;
  return row.good ? (
    <span className="flex items-center gap-1 py-1 font-medium text-green">
      <Check className="size-4" />
      {t.proved}
    </span>
  ) : (
    <span className="flex items-center gap-1 py-1 font-medium text-error">
      <X className="size-4" />
      {t.notAsMeant}
    </span>
  );
}

function ProofTable({ row, project }: { row: DeliveryOut; project: number }) {
  const [open, setOpen] = useState(false);
  const verify = useMutation({ mutationFn: () => orderCalls.verify(row.id) });
  const verified = [
    ...(verify.data?.changed.length ? [t.changed(verify.data.changed.join(", "))] : []),
    ...(verify.data?.missing.length ? [t.gone(verify.data.missing.join(", "))] : []),
  ];
  const proof = row.proof!;
  return (
    <div className="mt-2 border-t border-line pt-2">
      {proof.problems.map((text) => (
        <p key={text} className="text-error">
          {text}
        </p>
      ))}
      <dl className="grid grid-cols-[7rem_1fr] gap-y-0.5">
        {factsOf(row).map(([label, value]) => (
          <div key={label} className="contents">
            <dt className="text-soft">{label}</dt>
            <dd className="num [overflow-wrap:anywhere]">{value}</dd>
          </div>
        ))}
        <dt className="text-soft">{t.liesIn}</dt>
        <dd className="num [overflow-wrap:anywhere]">{row.path}</dd>
      </dl>
      <div className="mt-1 -ml-2 flex flex-wrap items-center gap-1">
        <Button kind="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open
            ? t.hideTheFiles
            : row.files.length === 1
              ? t.n1FileWithItsHash
              : t.filesWithTheirHashes(row.files.length)}
        </Button>
        {row.files.length > 1 && (
          <a
            href={`/api/deliveries/${row.id}/archive`}
            download
            className="inline-flex min-h-7 items-center gap-1.5 rounded-md px-2 hover:bg-well"
          >
            <Download aria-hidden className="size-3.5" />
            {t.fetchAllAsOneZip}
          </a>
        )}
        <Link
          to={`/projects/${project}/delivery/${row.id}/proof`}
          className="inline-flex min-h-7 items-center rounded-md px-2 hover:bg-well"
        >
          {t.proofAsAPage}
        </Link>
        <Button kind="quiet" disabled={verify.isPending} onClick={() => verify.mutate()}>
          {verify.isPending ? t.verifying : t.verifyAgain}
        </Button>
      </div>
      {verify.data && (
        <p role="status" className={verified.length ? "text-error" : "text-green"}>
          {verified.length ? verified.join(" ") : t.asListed(verify.data.files)}
        </p>
      )}
      {verify.error && <ProblemNote problem={asProblem(verify.error)} />}
      {open && (
        <ul className="num mt-1 max-h-60 overflow-auto rounded-md border border-line p-2">
          {row.files.map((file) => (
            <li key={file} className="flex justify-between gap-4">
              <a
                href={`/api/deliveries/${row.id}/files/${encodeURIComponent(file)}`}
                className="truncate underline"
              >
                {file}
              </a>
              <span className="shrink-0 text-soft">{proof.hashes[file] ?? ""}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
