import type { Privilege } from "../analysis/privileges.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";

export type Phase = "before" | "change" | "after" | "restore";

export const PHASES: readonly Phase[] = ["before", "change", "after", "restore"];

/** One query of a rehearsal. */
export interface RehearsalQuery {
  phase: Phase;
  /** `count`, `preview` and `figure` only read; `copy` makes a table; the others change rows. */
  purpose: "count" | "preview" | "figure" | "copy" | "guarded" | "change" | "check" | "restore";
  title: string;
  /** Without a terminator; several statements where the dialect needs them. */
  sql: string;
}

/** The rehearsal of one changing statement. */
export interface RehearsalSheet {
  /** The index of the statement, from 0. */
  statement: number;
  line: number;
  kind: string;
  target: string;
  queries: RehearsalQuery[];
  /** What could not be written truthfully, and why. */
  reasons: string[];
  /** The rights that the statement asks of whoever runs it; the copies need CREATE besides. */
  privileges: Privilege[];
  /** The number of rows that the author expects; null without a comment. */
  expected: { rows: number; atMost: boolean } | null;
}

/** The queries that a careful person runs by hand, version 1 of the format `cautela.rehearsal`. */
export interface Rehearsal {
  format: "cautela.rehearsal";
  version: 1;
  path: string;
  dialect: DialectId;
  sheets: RehearsalSheet[];
}
