/** Long work of every kind: deliveries, renders, transcodes. */
import { client, take, type Sent } from "./client";

export type JobOut = Sent<"JobOut">;

const of = (job: number) => ({ params: { path: { job_id: job } } });

export const jobCalls = {
  cancel: (job: number) => take<JobOut>(client.POST("/api/jobs/{job_id}/cancel", of(job))),
  retry: (job: number) => take<JobOut>(client.POST("/api/jobs/{job_id}/retry", of(job))),
  forget: (job: number) => take<undefined>(client.DELETE("/api/jobs/{job_id}", of(job))),
};

const ACTIVE: ReadonlySet<JobOut["state"]> = new Set(["queued", "running", "finishing"]);

export const isActive = (job: JobOut) => ACTIVE.has(job.state);
