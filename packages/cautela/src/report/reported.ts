import type { Rehearsal } from "../rehearsal/rehearsal.ts";
import { rehearse } from "../rehearsal/rehearse.ts";
import type { Review, ReviewedScript } from "../review/result.ts";
import { type StatementTrace, trace } from "../review/trace.ts";

/** A reviewed script with what a page shows besides: what its statements write, and its rehearsal. Plain data. */
export interface ReportedScript extends ReviewedScript {
  traces: StatementTrace[];
  rehearsal: Rehearsal | null;
}

/**
 * What reports show of a review, as plain data that can be sent from one thread to another.
 *
 * @param options.details with what a page shows besides; it takes as long as the review
 * @param options.date the day in the names of copies, see `RehearseOptions`
 */
export function reported(
  review: Review,
  options: { details: boolean; date?: string },
): ReviewedScript | ReportedScript {
  const { path, dialect, verdict, statements, findings, unchecked, unjudged } = review;
  const { dialectReason, statementCount, excerpts, contents, known, answers, undoes } = review;
  const own: ReviewedScript = {
    path,
    dialect,
    verdict,
    statements,
    findings,
    unchecked,
    unjudged,
    dialectReason,
    statementCount,
    excerpts,
    contents,
    known,
    answers,
    undoes,
  };
  if (!options.details) return own;
  const sheets = review.sources.size > 0;
  return {
    ...own,
    traces: trace(review).statements,
    rehearsal: sheets ? rehearse(review, { date: options.date }) : null,
  };
}

/** A script with its details; without them where they were not gathered and cannot be any more. */
export function withDetails(script: ReviewedScript | ReportedScript | Review, date?: string): ReportedScript {
  if ("traces" in script) return script;
  if ("sources" in script) return reported(script, { details: true, date }) as ReportedScript;
  return { ...script, traces: [], rehearsal: null };
}
