import type { MessagePort } from "node:worker_threads";
import { CautelaError } from "cautela";
import { Failure } from "./failure.ts";
import { type JobResult, type ReviewJob, reviewJob } from "./review-job.ts";

/** What a thread gives back: a failure is no defect, and is told apart from one. */
export type WorkerResult = JobResult | { failure: string };

/** Reviews one change set in a thread of its own; `port` is told of each script. */
export async function reviewWorker({ job, port }: { job: ReviewJob; port: MessagePort }): Promise<WorkerResult> {
  try {
    return await reviewJob(job, (path) => port.postMessage(path));
  } catch (error) {
    if (error instanceof Failure || error instanceof CautelaError) return { failure: error.message };
    throw error;
  } finally {
    port.close();
  }
}
