import type { InsertedRows } from "../analysis/changes/inserted.ts";
import type { JudgedChange } from "../analysis/changes/judged-change.ts";
import type { Resolution } from "../analysis/names/resolution.ts";
import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import type { Creations } from "../analysis/script/creations.ts";
import type { History } from "../analysis/script/history.ts";
import type { Moves } from "../analysis/script/moves.ts";
import type { ScriptOrigin } from "../analysis/script/origin.ts";
import type { Returns } from "../analysis/script/returns.ts";
import type { Gate } from "../analysis/script/step.ts";
import type { Timeline } from "../analysis/script/timeline.ts";
import type { NodeIndex } from "../analysis/statement/node-index.ts";
import type { Catalog } from "../catalog/catalog.ts";
import type { Policy } from "../policy/policy.ts";
import type { Dialect, DialectId, SessionState } from "../sql/dialects/dialect.ts";
import type { Span, Statement } from "../sql/nodes/tree.ts";
import type { ReadStatement } from "../sql/reading/script.ts";
import type { Region } from "../text/region.ts";

/** How much a finding matters: do not run; somebody must answer first; worth knowing. */
export type Weight = "stop" | "ask" | "note";

export type Family = "rows" | "joins" | "values" | "views" | "ripples" | "recovery" | "order" | "policy" | "reading";

/** One hazard found at one place, before it has a place. */
export interface Draft {
  weight?: Weight;
  /** What would happen in this script, in one sentence. */
  message: string;
  /** The reasoning, step by step. */
  because: string[];
  /** What to write instead; empty where that cannot be said. */
  remedy: string;
  /**
   * What it goes back to: findings of one hazard with one cause are told once in a script, with all their places. The
   * message and its reasons if left out.
   */
  cause?: string;
  /** What mends the statement exactly, where that can be written. */
  fix?: Fix;
  /** It is about structure alone, no rows: a script that takes this one back and brings all structure back makes it a note. */
  structural?: boolean;
  /** The engine refuses the statement: it changes nothing, and the script goes on as if it were not there. */
  refused?: boolean;
  /** Another statement of the script that is to be mended; this one if left out. */
  at?: At;
  /** What differs between its places, a table for example; see `together`. */
  about?: string;
  /** The message where several places are told as one finding: `about` of each, in the order of the script. */
  together?(about: readonly string[]): string;
  /**
   * What is left of it when the whole script is known: itself, a lighter one, or null. It is asked for once, at the end.
   *
   * @example
   * // DELETE FROM tariff; INSERT INTO tariff VALUES … -- every-row, `ask` once the rows are seen to come back
   */
  settle?(script: FinishContext): Draft | null;
}

/** Changes of the script's text that mend a finding. */
export interface Fix {
  /** What they do: "Write IS NULL". */
  title: string;
  /** They do not overlap; lines and columns are those of the script as it is. */
  edits: readonly Edit[];
}

/** A piece of the script that another text takes the place of; an empty piece is a place where it goes in. */
export interface Edit extends Region {
  text: string;
}

/** A place in the script. */
export interface At {
  statement: number;
  region: Region;
}

/** What a hazard's check is given: one statement, resolved and judged. */
export interface HazardContext {
  readonly dialect: Dialect;
  /** What the database would hold here; where none was given, what the script itself has made, and nothing is known of the rest. */
  readonly catalog: Catalog | null;
  /** A catalog was given: a table that it lacks is not there. */
  readonly known: boolean;
  readonly policy: Policy;
  readonly origin: ScriptOrigin;
  readonly statement: ReadStatement;
  readonly tree: Statement;
  readonly changes: readonly JudgedChange[];
  /** The number by which it is the same as another statement, see `fingerprint`; null when it is too long to matter. */
  readonly text: number | null;
  /** The rows of an INSERT or of a branch of MERGE; null for other statements. */
  readonly inserted: InsertedRows | null;
  /** What its names mean; null without a catalog. */
  readonly names: Resolution | null;
  /** Its nodes by what they are. */
  readonly found: NodeIndex;
  /** What follows from its changes: views, rules, triggers, cascades, routines. Empty without a catalog. */
  readonly ripples: readonly FiredRipple[];
  /** The settings of the session that decide what fires. */
  readonly session: SessionState;
  /** What the script has done before this statement. */
  readonly history: History;
  /** Transactions, copies, destruction and guards before this statement. */
  readonly timeline: Timeline;
  /** What the script has made before this statement. */
  readonly creations: Creations;
  /** The values that the script has taken from one place to another before this statement. */
  readonly moves: Moves;
  /** The statement before it; null for the first, and within blocks. */
  readonly previous: ReadStatement | null;
  /** The statement after it, as far as it is known. */
  readonly next: ReadStatement | null;
  /** Where the statement stands. */
  readonly at: At;
  /** Inside a block: a name may be a variable, and the statement may run more than once. */
  readonly inCode: boolean;
  /** It stands in a branch, in a loop or in a handler of errors: it need not run. */
  readonly conditional: boolean;
  /** It stands in a loop. */
  readonly inLoop: boolean;
  /** The conditions on which it runs: IF around it, IF … RETURN before it. */
  readonly gates: readonly Gate[];
  /** The source text of a range. */
  slice(start: number, end: number): string;
  /** A piece of source in one line, cut when it is long. */
  show(node: Span): string;
  /** The place of a piece of source. */
  region(span: Span): Region;
  /** The line on which an offset lies, from 1. */
  line(offset: number): number;
  /** What the comments before and in the statement say, without `cautela:` lines. */
  comments(): string;
}

/** A script that shows a hazard, and one that looks like it and is sound. Both are run as tests. */
export interface HazardExample {
  readonly dialect: DialectId;
  /** The tables that the scripts refer to. */
  readonly ddl: string;
  readonly dangerous: string;
  readonly sound: string;
  /** The rules of the team under which both are reviewed. */
  readonly policy?: Policy;
  /** The day on which both are to run. */
  readonly date?: string;
  /** What the dangerous one is to other scripts. */
  readonly beside?: { readonly rewritten?: string; readonly undoes?: string };
}

/**
 * What a hazard depends on: a catalog at all, the tables that a statement names, all that follows from it, the code that
 * it runs.
 */
export type Dependence = "catalog" | "names" | "ripples" | "code";

/** One named kind of danger. */
export interface Hazard {
  readonly id: string;
  readonly family: Family;
  /** Its usual weight; a finding may weigh less. */
  readonly weight: Weight;
  readonly title: string;
  /** What goes wrong and why, in a few sentences. */
  readonly explanation: string;
  /** How to put it right, in general. */
  readonly remedy: string;
  /** The kinds of statement in which it can occur; all if left out. */
  readonly statements?: readonly Statement["kind"][];
  /** What a statement must hold, any of it, for this to occur in it; see `Trait`. */
  readonly needs?: number;
  /** What must be known for it to be decided: it is listed as unchecked where that is missing. */
  readonly depends?: readonly Dependence[];
  /** Hazards that say the same of the same statement: their words become reasons of this one. */
  readonly subsumes?: readonly string[];
  /** Its check may find something at an earlier statement, when a later one is seen. */
  readonly speaksLater?: boolean;
  /** It speaks of data that are gone for good: in a transaction that is rolled back at its end it weighs at most `note`. */
  readonly lasting?: boolean;
  /** Only looked for when the policy gives it a weight. */
  readonly onRequest?: boolean;
  readonly example: HazardExample;
  /** What is said when the statement is reviewed. */
  check?(context: HazardContext): Draft[];
  /** What can only be said when the whole script is known; every draft says where it stands. */
  finish?(context: FinishContext): Draft[];
}

/** What a hazard is given when the script is at its end. */
export interface FinishContext {
  readonly dialect: Dialect;
  readonly catalog: Catalog | null;
  readonly known: boolean;
  readonly policy: Policy;
  readonly origin: ScriptOrigin;
  /** Where the script begins: what is said of all of it stands there. */
  readonly start: At;
  readonly history: History;
  readonly timeline: Timeline;
  readonly creations: Creations;
  readonly moves: Moves;
  /** What comes back of what the script has emptied or dropped. */
  readonly returns: Returns;
}

export type { JudgedChange };
