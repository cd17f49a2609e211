/** Long work of every kind: deliveries, renders, transcodes. */
import { client, take, type Sent } from "./client";

export type JobOut = Sent<"JobOut">;

const of = (job: number) => ({ params: { path: { job_id: job } } });

export const jobCalls = {
  cancel: (job: number) => take<JobOut>(client.POST("/api/jobs/{job_id}/cancel", of(job))),
  pause: (job: number) => take<JobOut>(client.POST("/api/jobs/{job_id}/pause", of(job))),
  hurry: (job: number) => take<JobOut>(client.POST("/api/jobs/{job_id}/hurry", of(job))),
  retry: (job: number) => take<JobOut>(client.POST("/api/jobs/{job_id}/retry", of(job))),
  forget: (job: number) => take<undefined>(client.DELETE("/api/jobs/{job_id}", of(job))),
};

const ENDED: ReadonlySet<JobOut["state"]> = new Set(["done", "failed", "cancelled"]);

/** What is paused has not. */
export const hasEnded = (job: JobOut) => ENDED.has(job.state);
