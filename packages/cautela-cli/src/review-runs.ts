import { availableParallelism } from "node:os";
import { fileURLToPath } from "node:url";
import { MessageChannel } from "node:worker_threads";
import { type ChangeSet, sizeOf } from "./change-sets.ts";
import { Failure } from "./failure.ts";
import { interruptible } from "./interrupt.ts";
import { type JobResult, type ReviewJob, reviewJob } from "./review-job.ts";
import type { WorkerResult } from "./review-worker.ts";

/** Scripts that are larger together than this, in bytes, are reviewed in threads of their own. */
const THREADS_FROM = 400_000;

/** Reviews change sets; the results are in their order, whichever is done first. */
export async function reviewSets(sets: readonly ChangeSet[], job: (set: ChangeSet) => ReviewJob): Promise<JobResult[]> {
  const all = sets.reduce((sum, { scripts }) => sum + scripts.length, 0);
  const progress = new Progress(all);
  try {
    if (sizeOf(sets) >= THREADS_FROM) return await inThreads(sets, job, progress);
    const results: JobResult[] = [];
    for (const set of sets) results.push(await interruptible(() => reviewJob(job(set), (path) => progress.at(path))));
    return results;
  } finally {
    progress.end();
  }
}

async function inThreads(
  sets: readonly ChangeSet[],
  job: (set: ChangeSet) => ReviewJob,
  progress: Progress,
): Promise<JobResult[]> {
  const { Tinypool } = await import("tinypool");
  const pool = new Tinypool({
    filename: fileURLToPath(new URL("../bin/review-worker.cjs", import.meta.url)),
    maxThreads: Math.max(1, Math.min(availableParallelism(), sets.length)),
    minThreads: 1,
  });
  try {
    return await Promise.all(
      sets.map(async (set) => {
        const { port1, port2 } = new MessageChannel();
        port1.on("message", (path: string) => progress.at(path));
        port1.unref();
        const result = (await pool.run({ job: job(set), port: port2 }, { transferList: [port2] })) as WorkerResult;
        port1.close();
        if ("failure" in result) throw new Failure(result.failure);
        return result;
      }),
    );
  } finally {
    await pool.destroy();
  }
}

/** A line on a terminal's standard error while many scripts are reviewed; nothing elsewhere. */
class Progress {
  readonly #all: number;
  #done = 0;
  #last = 0;
  #shown = false;

  constructor(all: number) {
    this.#all = all;
    this.#last = Date.now();
  }

  at(path: string): void {
    this.#done++;
    const now = Date.now();
    if (!process.stderr.isTTY || now - this.#last < 150) return;
    this.#last = now;
    this.#shown = true;
    const line = `reviewing ${this.#done} of ${this.#all}: ${path.replace(/[\p{Cc}\p{Cf}]/gu, "?")}`;
    process.stderr.write(`\r\x1b[K${line.slice(0, (process.stderr.columns || 80) - 1)}`);
  }

  end(): void {
    if (this.#shown) process.stderr.write("\r\x1b[K");
  }
}
