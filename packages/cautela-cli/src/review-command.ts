import { isAtLeast, type ReportFormat, type ReportOptions, type ReviewedScript, type Weight } from "cautela";
import { reported } from "cautela/tools";
import { loadCatalog } from "./catalog-source.ts";
import { type ChangeSetFlags, changeSets, type FoundSets, scriptsOf } from "./change-sets.ts";
import { Failure } from "./failure.ts";
import { beginsBinary, fileSize, isPiped } from "./files.ts";
import { formOf, inForm } from "./forms.ts";
import { interruptible } from "./interrupt.ts";
import { type FileResult, print, writeResults } from "./output.ts";
import type { JobResult, ReviewJob } from "./review-job.ts";
import { pipedReview, STREAM_FROM, streamReview } from "./stream-review.ts";
import { columns, terminalStyle } from "./style.ts";
import { compactDay, now } from "./today.ts";

export interface ReviewFlags extends ChangeSetFlags {
  /** The form on standard output. */
  format: ReportFormat;
  output?: string[];
  failOn: Weight;
  full?: boolean;
  baseline?: string;
  writeBaseline?: string;
  date?: string;
  watch?: boolean;
}

/** `cautela review`: reviews scripts and writes the results; returns the exit status. */
export async function reviewCommand(paths: readonly string[], flags: ReviewFlags): Promise<number> {
  if (flags.writeBaseline !== undefined && flags.since !== undefined)
    throw new Failure("--write-baseline keeps what is found in all scripts, and --since leaves some out");
  if (flags.watch && flags.writeBaseline !== undefined)
    throw new Failure("--write-baseline keeps what is found now, and --watch goes on");
  if (flags.watch) {
    const { watchCommand } = await import("./watch.ts");
    return watchCommand(paths, flags);
  }
  const found = await changeSets(paths, flags);
  const result = await reviewed(found, flags);
  say([...found.said, ...result.said]);
  const status = await finished(result.scripts, found, flags);
  // A review that lacks scripts is no clean one, whatever was found in the others.
  return result.unread > 0 ? 2 : status;
}

/** Says lines on standard error. */
export function say(lines: readonly string[]): void {
  for (const line of lines) console.error(`cautela: ${line}`);
}

/** The reviews of change sets, each set on its own; and what is to be said of them. */
export async function reviewed(
  { sets }: FoundSets,
  flags: ReviewFlags,
): Promise<{ scripts: ReviewedScript[]; said: string[]; unread: number }> {
  const date = flags.date === "now" ? now() : flags.date;
  const formats = [flags.format, ...outputsOf(flags).map(({ format }) => format)];
  const job = (set: ReviewJob["set"]): ReviewJob => ({
    set,
    details: formats.includes("html"),
    // Only these two forms list statements of which nothing was found.
    short: !formats.some((format) => format === "json" || format === "html"),
    date,
    day: compactDay(date),
  });
  const results = [await alone(sets, job)].filter((result) => result !== null);
  if (results.length === 0 && sets.length > 0) {
    const { reviewSets } = await import("./review-runs.ts");
    results.push(...(await reviewSets(sets, job)));
  }
  return {
    scripts: results.flatMap(({ scripts }) => scripts),
    said: [...new Set(results.flatMap(({ said }) => said))],
    unread: results.reduce((sum, { unread }) => sum + unread, 0),
  };
}

/** The review of a single script that is large or comes through a pipe: it is not held in memory. */
async function alone(sets: FoundSets["sets"], job: (set: ReviewJob["set"]) => ReviewJob): Promise<JobResult | null> {
  const [set] = sets;
  if (sets.length !== 1 || set.scripts.length !== 1) return null;
  const [script] = set.scripts;
  const { path, policy, rewritten } = script;
  const large = isLarge(path);
  if (script.undo !== undefined || !(large || isPiped(path))) return null;
  const { details, short, date, day } = job(set);
  const said: string[] = [];
  const loaded = await loadCatalog(set.catalog, set.dialect ?? set.usual);
  said.push(...(loaded?.problems ?? []));
  const options = {
    dialect: set.dialect,
    catalog: loaded?.catalog,
    policy,
    date,
    rewritten,
    path: path === "-" ? "standard input" : path,
    keep: short ? "found" : "all",
  } as const;
  const tell = (line: string): void => void said.push(line);
  const reviews = large
    ? [await interruptible(async () => streamReview(path, options, tell))]
    : await pipedReview(path, options, tell);
  return { scripts: reviews.map((review) => reported(review, { details, date: day })), said, unread: 0 };
}

/** A single script that is too large to be held in memory. */
function isLarge(path: string): boolean {
  if (path === "-" || fileSize(path) <= STREAM_FROM) return false;
  if (beginsBinary(path)) throw new Failure(`${path} is no text: it holds NUL bytes`);
  return true;
}

interface Output {
  file: string;
  format: ReportFormat;
}

/** The files to write, each in the form that its ending names, or else in that of standard output. */
function outputsOf({ output, format }: WritingFlags): Output[] {
  return (output ?? []).map((file) => ({ file, format: formOf(file) ?? format }));
}

/**
 * Holds reviews against the baseline, writes them out, and gives the exit status. `shown`: only these are shown on standard
 * output; files hold all.
 */
export async function finished(
  all: readonly ReviewedScript[],
  { sets, beside }: FoundSets,
  flags: ReviewFlags,
  shown: readonly ReviewedScript[] = all,
): Promise<number> {
  const inputs = [...scriptsOf(sets), ...beside];
  const reviews = await heldAgainst(all, flags);
  if (flags.baseline !== undefined && flags.baseline !== flags.writeBaseline) inputs.push(flags.baseline);
  const paths = new Set(shown.map(({ path }) => path));
  const printed = shown === all ? reviews : reviews.filter(({ path }) => paths.has(path));
  if (flags.writeBaseline !== undefined) {
    const { nextBaseline } = await import("./baseline-file.ts");
    const { text, said } = await nextBaseline(flags.writeBaseline, all);
    // All files are written, or none.
    const result = { path: flags.writeBaseline, pieces: [text] };
    writeResults([...(await resultsOf(reviews, flags)), result], inputs);
    say([said]);
    return 0;
  }
  await writeReports(reviews, flags, inputs, printed);
  return reviews.some((review) => isAtLeast(review.verdict, flags.failOn)) ? 1 : 0;
}

async function heldAgainst(all: readonly ReviewedScript[], flags: ReviewFlags): Promise<readonly ReviewedScript[]> {
  if (flags.baseline === undefined) return all;
  const { idleLines, isReviewed, readBaseline } = await import("./baseline-file.ts");
  const { comparedWith } = await import("cautela");
  const { reviews, idle } = comparedWith(all, await readBaseline(flags.baseline));
  // Of scripts that were not reviewed nothing is known.
  if (flags.since === undefined)
    say(
      idleLines(
        flags.baseline,
        idle.filter((entry) => isReviewed(entry, all)),
      ),
    );
  return reviews;
}

/** What of the flags decides how reviews are written out. */
export type WritingFlags = Pick<ReviewFlags, "format" | "output" | "full"> & Partial<ReviewFlags>;

/** The version of the package, put in where it is bundled. */
declare const VERSION: string;

function writingOptions({ full, failOn, baseline, date }: WritingFlags): ReportOptions {
  const day = compactDay(date === "now" ? undefined : date);
  return { full, failOn, baseline: baseline !== undefined, version: VERSION, date: day };
}

/** What goes to files. */
async function resultsOf(reviews: readonly ReviewedScript[], flags: WritingFlags): Promise<FileResult[]> {
  const results: FileResult[] = [];
  for (const { file, format } of outputsOf(flags))
    results.push({ path: file, pieces: await inForm(reviews, format, writingOptions(flags)) });
  return results;
}

/** Writes reviews to files, and to standard output. */
export async function writeReports(
  reviews: readonly ReviewedScript[],
  flags: WritingFlags,
  inputs: readonly string[] = [],
  shown: readonly ReviewedScript[] = reviews,
): Promise<void> {
  writeResults(await resultsOf(reviews, flags), inputs);
  const options = { ...writingOptions(flags), width: columns(process.stdout), style: terminalStyle(process.stdout) };
  await print(await inForm(shown, flags.format, options));
}
