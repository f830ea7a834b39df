import type { Change } from "../analysis/change.ts";
import type { ReachResult } from "../analysis/reach.ts";
import type { Softener } from "../analysis/softeners.ts";
import type { Catalog } from "../catalog/catalog.ts";
import type { Dialect, DialectId } from "../sql/dialects/dialect.ts";
import type { ReadStatement } from "../sql/script.ts";

/** How much a finding matters: do not run; somebody must answer first; worth knowing. */
export type Weight = "stop" | "ask" | "note";

export type Family = "rows" | "joins" | "values" | "views" | "ripples" | "recovery" | "order" | "reading";

/** One hazard found at one place, before it has a place. */
export interface Draft {
  weight?: Weight;
  /** What would happen in this script, in one sentence. */
  message: string;
  /** The reasoning, step by step. */
  because: string[];
  /** What to write instead; empty where that cannot be said. */
  remedy: string;
}

/** A change with its reach and with what softens a finding about it. */
export interface JudgedChange {
  change: Change;
  result: ReachResult;
  /** The target as messages name it. */
  target: string;
  softener: Softener | null;
  /** A copy of the whole target stands before this statement, under this name. */
  copy: string | null;
}

/** What a hazard's check is given: one statement, resolved and judged. */
export interface HazardContext {
  dialect: Dialect;
  catalog: Catalog | null;
  statement: ReadStatement;
  changes: readonly JudgedChange[];
  /** The source text of a range. */
  slice(start: number, end: number): string;
  /** The line on which an offset lies, from 1. */
  line(offset: number): number;
}

/** A script that shows a hazard, and one that looks like it and is sound. Both are run as tests. */
export interface HazardExample {
  dialect: DialectId;
  /** The tables that the scripts speak of. */
  ddl: string;
  dangerous: string;
  sound: string;
}

/** One named kind of danger. */
export interface Hazard {
  id: string;
  family: Family;
  /** Its usual weight; a finding may weigh less. */
  weight: Weight;
  title: string;
  /** What goes wrong and why, in a few sentences. */
  explanation: string;
  /** How to put it right, in general. */
  remedy: string;
  example: HazardExample;
  check(context: HazardContext): Draft[];
}
