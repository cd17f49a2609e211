/** One delivery: its progress, what went wrong, and its proof. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Check, X } from "lucide-react";
import { useState, type ReactNode } from "react";
import { asProblem, client, take, type DeliveryOut } from "../../api/client";
import { counted, rateInWords, secondsInWords } from "../../domain/words";
import { Button, ProblemNote, ProgressBar } from "../../ui/basics";

const ACTIVE = new Set(["queued", "writing", "proving"]);

export function DeliveryCard({ row, project }: { row: DeliveryOut; project: number }) {
  const cache = useQueryClient();
  const path = { delivery_id: row.id };
  const steer = useMutation({
    mutationFn: async (what: "cancel" | "retry" | "forget") => {
      if (what === "cancel")
        await take(client.POST("/api/deliveries/{delivery_id}/cancel", { params: { path } }));
      else if (what === "retry")
        await take(client.POST("/api/deliveries/{delivery_id}/retry", { params: { path } }));
      else await take(client.DELETE("/api/deliveries/{delivery_id}", { params: { path } }));
    },
    onSettled: () => cache.invalidateQueries({ queryKey: ["deliveries", project] }),
  });
  return (
    <li
      aria-label={`Delivery of ${row.comp_name}, ${row.form_title}`}
      data-state={row.state}
      className="rounded-lg border border-line bg-card p-3"
    >
      <div className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <p className="font-semibold [overflow-wrap:anywhere]">
            {row.comp_name} <span className="font-normal text-soft">as {row.form_title}</span>
          </p>
          <p className="num text-soft [overflow-wrap:anywhere]">
            {row.first} to {row.last}, {rateInWords(row.rate)}, {row.place}/{row.file}
          </p>
        </div>
        <StateMark row={row} />
        {ACTIVE.has(row.state) && (
          <Button disabled={row.cancelling || steer.isPending} onClick={() => steer.mutate("cancel")}>
            {row.cancelling ? "Stopping …" : "Cancel"}
          </Button>
        )}
        {(row.state === "failed" || row.state === "cancelled") && (
          <Button onClick={() => steer.mutate("retry")}>Go on</Button>
        )}
        {!ACTIVE.has(row.state) && (
          <Button kind="quiet" title="The files stay where they are" onClick={() => steer.mutate("forget")}>
            Remove from list
          </Button>
        )}
      </div>
      {ACTIVE.has(row.state) && <Progress row={row} />}
      {row.problem && (
        <div className="mt-2">
          <ProblemNote problem={row.problem} />
        </div>
      )}
      {steer.error && (
        <div className="mt-2">
          <ProblemNote problem={asProblem(steer.error)} />
        </div>
      )}
      {row.proof && <ProofTable row={row} />}
    </li>
  );
}

function StateMark({ row }: { row: DeliveryOut }) {
  if (row.state === "done") {
    return row.good ? (
      <span className="flex items-center gap-1 py-1 font-medium text-green">
        <Check className="size-4" /> proved
      </span>
    ) : (
      <span className="flex items-center gap-1 py-1 font-medium text-error">
        <X className="size-4" /> not as meant
      </span>
    );
  }
  return <span className="py-1 text-soft">{row.state}</span>;
}

function Progress({ row }: { row: DeliveryOut }) {
  const proving = row.state === "proving";
  const done = proving ? row.proved : row.written;
  return (
    <div className="mt-2 flex items-center gap-3">
      <ProgressBar
        done={row.written + row.proved}
        total={2 * row.count}
        name={`Delivery of ${row.comp_name}`}
      />
      <span className="num shrink-0 text-soft">
        {row.state === "queued"
          ? "waiting its turn"
          : `${proving ? "proved" : "written"} ${done} of ${row.count}`}
        {row.seconds_left !== null && `, ${secondsInWords(row.seconds_left)} left`}
      </span>
    </div>
  );
}

function ProofTable({ row }: { row: DeliveryOut }) {
  const [open, setOpen] = useState(false);
  const proof = row.proof!;
  // light has no top: an error in it is told as it is, one in code values against 255
  const eight = (v: number) =>
    row.encoding === "linear" ? `${v.toFixed(5)} in light` : `${(v * 255).toFixed(3)} of 255`;
  const facts: [string, ReactNode][] = [
    [
      "frames",
      `${proof.frames_found} of ${proof.frames_meant}${proof.missing.length ? `, missing ${proof.missing.join(", ")}` : ", none missing"}`,
    ],
    [
      "rate",
      proof.rate_found
        ? `${proof.rate_found} found, ${proof.rate_meant} meant`
        : `${row.rate} (frames hold none)`,
    ],
    ["alpha range", `${proof.alpha_low.toFixed(4)} to ${proof.alpha_high.toFixed(4)}`],
    [
      "largest error",
      `colour ${eight(proof.colour_error)}, alpha ${eight(proof.alpha_error)}${proof.worst_frame === null ? "" : `, frame ${proof.worst_frame}`}`,
    ],
    [
      "light lost",
      proof.lost_light
        ? `${counted(proof.lost_light, "pixel")} with light at alpha 0, which this form cannot hold`
        : "none",
    ],
    ["clipped", proof.clipped ? `${counted(proof.clipped, "pixel")} outside 0 to 1` : "none"],
  ];
  return (
    <div className="mt-2 border-t border-line pt-2">
      {proof.problems.map((text) => (
        <p key={text} className="text-error">
          {text}
        </p>
      ))}
      <dl className="grid grid-cols-[7rem_1fr] gap-y-0.5">
        {facts.map(([label, value]) => (
          <div key={label} className="contents">
            <dt className="text-soft">{label}</dt>
            <dd className="num [overflow-wrap:anywhere]">{value}</dd>
          </div>
        ))}
        <dt className="text-soft">lies in</dt>
        <dd className="num [overflow-wrap:anywhere]">{row.folder}</dd>
      </dl>
      <Button kind="quiet" aria-expanded={open} onClick={() => setOpen(!open)} className="mt-1 -ml-2">
        {open ? "Hide the files" : `${row.files.length} files with their hashes`}
      </Button>
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
