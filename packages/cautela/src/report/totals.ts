import type { Answer, Finding, ReviewedScript, Verdict } from "../review/result.ts";
import { heavier } from "../review/result.ts";
import { inOneLine } from "../text/visible.ts";

/** What reviews have found, in numbers. */
export interface Totals {
  verdict: Verdict;
  stop: number;
  ask: number;
  note: number;
  accepted: number;
  /** Held by a baseline. */
  known: number;
  /** Statements of which something was not judged. */
  unchecked: number;
  statements: number;
}

/** Counts what reviews have found. */
export function totalsOf(reviews: readonly ReviewedScript[]): Totals {
  const totals: Totals = {
    verdict: "clear",
    stop: 0,
    ask: 0,
    note: 0,
    accepted: 0,
    known: 0,
    unchecked: 0,
    statements: 0,
  };
  for (const one of reviews) {
    totals.verdict = heavier(totals.verdict, one.verdict);
    totals.known += one.known.length;
    totals.statements += one.statementCount;
    for (const { statements } of one.unchecked) totals.unchecked += statements.length;
    for (const finding of one.findings) {
      if (finding.accepted === null) totals[finding.weight]++;
      else totals.accepted++;
    }
  }
  return totals;
}

/** The lines at which a finding stands besides its own: "lines 10, 14", or "lines 10 to 72 (63 places)" where they are many. */
export function placesText({ places }: Finding): string {
  const lines = [...new Set(places.map(({ line }) => line))];
  if (lines.length > NAMED_PLACES) return `lines ${lines[0]} to ${lines[lines.length - 1]} (${places.length} places)`;
  return `${lines.length === 1 ? "line" : "lines"} ${lines.join(", ")}`;
}

const NAMED_PLACES = 5;

/** Where the page of a hazard stands. */
export function hazardPage(id: string): string {
  return `https://cautela.example/hazards/${id}`;
}

/** A verdict as a heading. */
export const VERDICT_WORDS: Readonly<Record<Verdict, string>> = {
  stop: "Stop: do not run this as it is",
  ask: "Ask: somebody must answer first",
  note: "Clear, with notes",
  clear: "Clear",
};

const ANSWERS: Readonly<Record<Answer["what"], string>> = {
  expect: "expects",
  backup: "kept elsewhere:",
  dialect: "dialect",
  install: "first installation:",
};

/** What a comment of the script answers: "expects 7 rows", "kept elsewhere: the nightly dump". */
export function answerText({ what, text }: Answer): string {
  return `${ANSWERS[what]} ${text}`.trim();
}

/** A script as reports name it; the part of a script that takes back the other is told from that. */
export function scriptName({ path, undoes }: ReviewedScript): string {
  const name = inOneLine(path === "" ? "script" : path);
  return undoes !== null && undoes === path ? `${name} (undo)` : name;
}
