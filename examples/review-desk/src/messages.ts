import type { DialectId, Finding, PlacedUnchecked, Rehearsal, StatementReview, StatementTrace, Verdict } from "cautela";
import type { CatalogEntry } from "./catalog-entries.ts";

/** What the page asks of the worker: a review. */
export interface Request {
  id: number;
  text: string;
  dialect: DialectId;
  /** DDL of the database, file by file. */
  catalog: string[];
}

/** The page asks for the rehearsal of the review that it was answered with. */
export interface RehearsalRequest {
  rehearse: number;
}

/** What the worker answers: a review without its trees, which the page does not need. */
export interface Answer {
  id: number;
  verdict: Verdict;
  statements: (StatementReview & { start: number; end: number })[];
  findings: Finding[];
  unchecked: PlacedUnchecked[];
  /** What no hazard looks at, in words; empty: nothing. */
  unjudged: string;
  /** The ripples of the statements that write. */
  traces: StatementTrace[];
  /** How many tables the catalog holds. */
  tables: number;
  /** What the catalog holds; null while it is the one that was sent before. */
  entries: CatalogEntry[] | null;
  milliseconds: number;
}

/** The rehearsal of a review, when the page has asked for it. */
export interface Rehearsed {
  id: number;
  rehearsal: Rehearsal;
}

/** The review broke off: there is no verdict. */
export interface Failure {
  id: number;
  failure: string;
}
