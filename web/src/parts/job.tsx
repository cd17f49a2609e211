/** What every long work shows of itself: how far it is, what went wrong, and the buttons that steer it. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { asProblem, type Problem } from "../api/client";
import { hasEnded, jobCalls, type JobOut } from "../api/jobs";
import { secondsInWords } from "../domain/words";
import { Button, ProgressBar } from "../ui/basics";
import { text } from "./strings";

const t = text.job;

/** Cancel, pause, go on, put first and remove from the list, with the problem of the last of them that was refused. */
export function useSteer(job: JobOut, project: number) {
  const cache = useQueryClient();
  const steer = useMutation({
    mutationFn: async (what: keyof typeof jobCalls) => {
      await jobCalls[what](job.id);
    },
    onSettled: () => cache.invalidateQueries({ queryKey: ["jobs", project] }),
  });
  const problem: Problem | null = steer.error ? asProblem(steer.error) : null;
  return { steer: steer.mutate, busy: steer.isPending, problem };
}

type Steer = Pick<ReturnType<typeof useSteer>, "steer" | "busy">;

export function JobButtons({ job, stays, steer, busy }: Steer & { job: JobOut; stays: string }) {
  if (!hasEnded(job)) {
    const still = job.cancelling || busy;
    return (
      <>
        {job.state === "queued" && (
          <Button kind="quiet" title={t.nextHelp} disabled={still} onClick={() => steer("hurry")}>
            {t.next}
          </Button>
        )}
        {job.state === "paused" ? (
          <Button disabled={still} onClick={() => steer("retry")}>
            {t.goOn}
          </Button>
        ) : (
          <Button kind="quiet" title={t.pauseHelp} disabled={still} onClick={() => steer("pause")}>
            {t.pause}
          </Button>
        )}
        <Button disabled={still} onClick={() => steer("cancel")}>
          {job.cancelling ? t.stopping : t.cancel}
        </Button>
      </>
    );
  }
  return (
    <>
      {job.state !== "done" && (
        <Button disabled={busy} onClick={() => steer("retry")}>
          {t.goOn}
        </Button>
      )}
      <Button kind="quiet" title={stays} disabled={busy} onClick={() => steer("forget")}>
        {t.removeFromList}
      </Button>
    </>
  );
}

interface ProgressProps {
  job: JobOut;
  /** What the bar is of, for who cannot see it. */
  name: string;
  written: string;
  /** What is done with each frame after it is written; none where nothing is. */
  checked?: string;
}

export function JobProgress({ job, name, written, checked }: ProgressProps) {
  const checking = job.state === "finishing" && checked !== undefined;
  const stage = t.stage(checking ? checked : written, checking ? job.checked : job.written, job.count);
  return (
    <div className="flex items-center gap-3">
      <ProgressBar
        done={job.written + (checked ? job.checked : 0)}
        total={(checked ? 2 : 1) * job.count}
        name={name}
      />
      <span className="num shrink-0 text-soft">
        {job.state === "queued" ? t.waitingItsTurn : job.state === "paused" ? t.pausedAt(stage) : stage}
        {job.seconds_left !== null && t.left(secondsInWords(job.seconds_left))}
      </span>
    </div>
  );
}

const WORDS: Record<JobOut["state"], string> = {
  queued: "queued",
  running: "at work",
  finishing: "finishing",
  paused: "paused",
  done: "done",
  failed: "failed",
  cancelled: "cancelled",
};

export const stateInWords = (job: JobOut) => WORDS[job.state];
