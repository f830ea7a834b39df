import type { Reach } from "../analysis/changes/reach.ts";
import type { Write } from "../analysis/changes/write.ts";
import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import type { Expectation } from "../analysis/script/expectations.ts";
import type { Catalog, RelationObject } from "../catalog/catalog.ts";
import type { Trigger } from "../catalog/model.ts";
import type { Fix, JudgedChange, Weight } from "../hazards/hazard.ts";
import type { Policy } from "../policy/policy.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import type { Statement } from "../sql/nodes/tree.ts";
import type { ReadStatement } from "../sql/reading/script.ts";
import type { Region } from "../text/region.ts";

/** The heaviest weight of a statement's or a script's findings. */
export type Verdict = Weight | "clear";

/** One statement of the review result. */
export interface StatementReview extends Region {
  index: number;
  kind: string;
  target: string | null;
  verdict: Verdict;
  reach: Reach | null;
  writes: Write[];
}

/** One hazard found at one place. */
export interface Finding extends Region {
  hazard: string;
  weight: Weight;
  /** The index of the statement. */
  statement: number;
  message: string;
  because: string[];
  remedy: string;
  /** The author's reason, where a comment in the script accepts the finding. */
  accepted: string | null;
  /** The further places of the script at which the same is found for the same cause, in its order. */
  places: Place[];
  /** What mends it exactly, at all its places; null where nothing exact can be offered. */
  fix: Fix | null;
}

/** A further place of a finding. */
export interface Place extends Region {
  /** The index of the statement. */
  statement: number;
}

/** What could not be judged, and what is missing to judge it. */
export interface Unchecked {
  /** The first statement that this is said of. */
  statement: number;
  /** All of them: what is missing for the same reason is said once. */
  statements: number[];
  missing: string;
  /** The hazards that were not decided. */
  hazards: readonly string[];
}

/** What a comment of the script answers besides findings: a number of rows, a copy kept elsewhere. */
export interface Answer {
  what: "expect" | "backup" | "dialect" | "install";
  /** In the author's words: `7 rows`, the reason. */
  text: string;
  /** The index of the statement that it stands at. */
  statement: number;
  line: number;
}

/** Statements that were read and that no hazard looks at. */
export interface Unjudged {
  what: "rights" | "branches of MERGE" | "settings" | "commands";
  /** The indexes of the statements. */
  statements: number[];
}

/** What was unchecked, with the place that a report shows. */
export interface PlacedUnchecked extends Unchecked {
  /** The lines on which the statements begin. */
  lines: number[];
}

/** The review of one script, as in the JSON form. */
export interface ScriptResult {
  path: string;
  dialect: DialectId;
  verdict: Verdict;
  statements: StatementReview[];
  findings: Finding[];
  unchecked: Unchecked[];
  /** What was not judged at all; a verdict does not speak of it. */
  unjudged: Unjudged[];
  /** What a baseline holds of the findings: they do not count. Left out where there are none. */
  known?: Finding[];
  /** What comments of the script answer. Left out where none does. */
  answers?: Answer[];
  /** The path of the script that this one takes back; its own where it holds both directions. Left out where it takes none back. */
  undoes?: string | null;
}

/** A statement with its own text, and what was found out about the rows that it changes. */
export interface ChangeSource {
  tree: Statement;
  /** Its text; offsets of the tree count from `start`. */
  text: string;
  start: number;
  changes: readonly JudgedChange[];
  /** The table or view that an INSERT or MERGE writes. */
  into: RelationObject | null;
  /** The triggers of the tables that it writes, those in its ripples included. */
  triggers: ReadonlyMap<RelationObject, readonly Trigger[]>;
  expected: Expectation | null;
  /** The index of the block, loop or branch inside which it runs; null where it stands by itself. */
  inside: number | null;
  /** What the author or the policy says about a copy that is kept elsewhere; null: nothing. */
  elsewhere: string | null;
  /** How often its batch is run: `GO 5`. */
  repeat: number;
}

/** The review of one script as reports show it: plain data, which can be sent from one thread to another. */
export interface ReviewedScript extends ScriptResult {
  unchecked: PlacedUnchecked[];
  known: Finding[];
  answers: Answer[];
  undoes: string | null;
  /** Why this dialect, where it was guessed; empty where it was given. */
  dialectReason: string;
  /** How many statements were reviewed; those kept may be fewer, see `ReviewOptions.keep`. */
  statementCount: number;
  /** The source of each statement with a finding, from the beginning of its first line. */
  excerpts: ReadonlyMap<number, string>;
  /** The keys of the contents of these statements, see `contentKey`. */
  contents: ReadonlyMap<number, string>;
}

/** The review of one script with what is behind it. */
export interface Review extends ReviewedScript {
  /** The trees, in the order of `statements`. */
  read: ReadStatement[];
  /** What follows from the changes of a statement, by its index; those from which nothing follows are left out. */
  ripples: ReadonlyMap<number, readonly FiredRipple[]>;
  /** The text of each statement and its changes, by its index: what a rehearsal is written from. */
  sources: ReadonlyMap<number, ChangeSource>;
  policy: Policy;
  /** What the database would hold after the script; null without a catalog. */
  catalog: Catalog | null;
  /** What the database holds before the script; null without a catalog. */
  before: Catalog | null;
}

/** The whole result, version 1 of the format `cautela.review`. */
export interface ReviewDocument {
  format: "cautela.review";
  version: 1;
  verdict: Verdict;
  scripts: ScriptResult[];
}

const ORDER: readonly Verdict[] = ["clear", "note", "ask", "stop"];

/** The heavier of two verdicts. */
export function heavier(a: Verdict, b: Verdict): Verdict {
  return ORDER.indexOf(a) >= ORDER.indexOf(b) ? a : b;
}

/** Whether a verdict is at or above a threshold. */
export function isAtLeast(verdict: Verdict, threshold: Weight): boolean {
  return ORDER.indexOf(verdict) >= ORDER.indexOf(threshold);
}

/** Findings of one place in the order in which they are read: the heaviest first. */
export function heaviestFirst(findings: readonly Finding[]): Finding[] {
  return [...findings].sort((a, b) => ORDER.indexOf(b.weight) - ORDER.indexOf(a.weight));
}

/**
 * Findings as they are read: those of one statement together, the heaviest first; the statements with the heaviest first,
 * and as heavy ones in the order of the script.
 */
export function blocksByWeight(findings: readonly Finding[]): Finding[][] {
  const blocks = new Map<number, Finding[]>();
  for (const finding of findings) {
    const block = blocks.get(finding.statement);
    if (block) block.push(finding);
    else blocks.set(finding.statement, [finding]);
  }
  return [...blocks.values()]
    .map((block) => {
      const open = block.map(({ accepted, weight }) => (accepted === null ? ORDER.indexOf(weight) : 0));
      return { findings: heaviestFirst(block), weight: Math.max(...open), line: block[0].line };
    })
    .sort((a, b) => b.weight - a.weight || a.line - b.line)
    .map((block) => block.findings);
}

/** Puts reviews together as one document of the JSON format. */
export function reviewDocument(reviews: readonly ReviewedScript[]): ReviewDocument {
  return {
    format: "cautela.review",
    version: 1,
    verdict: reviews.reduce<Verdict>((verdict, review) => heavier(verdict, review.verdict), "clear"),
    scripts: reviews.map(
      ({ path, dialect, verdict, statements, findings, unchecked, unjudged, known, answers, undoes }) => ({
        path,
        dialect,
        verdict,
        statements,
        findings,
        unchecked: unchecked.map(({ statement, statements, missing, hazards }) => ({
          statement,
          statements,
          missing,
          hazards,
        })),
        unjudged,
        ...(known.length > 0 ? { known } : {}),
        ...(answers.length > 0 ? { answers } : {}),
        ...(undoes === null ? {} : { undoes }),
      }),
    ),
  };
}

export type { Write };
