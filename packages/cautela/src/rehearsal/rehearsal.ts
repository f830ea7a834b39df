import type { Privilege } from "../analysis/statement/privileges.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import type { Phase, PhaseFrame } from "../writing/phase.ts";

export { PHASES, type Phase, type PhaseFrame } from "../writing/phase.ts";

/** One query of a rehearsal. */
export interface RehearsalQuery {
  phase: Phase;
  /**
   * `count`, `preview`, `figure` and `check` only read; `copy` makes or fills a table that keeps rows; `guarded` and
   * `change` are the change itself, with an assertion and without; `script` is a statement of the script that the changes
   * need; `restore` puts back.
   */
  purpose: "count" | "preview" | "figure" | "copy" | "guarded" | "change" | "script" | "check" | "restore";
  title: string;
  /** Without a terminator; several statements where the dialect needs them. */
  sql: string;
}

/** The rehearsal of one statement of the script. */
export interface RehearsalSheet {
  /** The index of the statement, from 0. */
  statement: number;
  line: number;
  kind: string;
  /** The table or view that it changes; the first one where there are several. */
  target: string;
  /**
   * In their order. What is looked at and copied in the phase `change` depends on what the script has done before; it
   * stands in that phase ahead of the change.
   */
  queries: RehearsalQuery[];
  /** What could not be written truthfully, and why. */
  reasons: string[];
  /** The rights that the statement asks of whoever runs it; the copies need CREATE besides. */
  privileges: Privilege[];
  /** The number of rows that the author expects; null without a comment. */
  expected: { rows: number; atMost: boolean } | null;
  /** The line of an earlier statement on which its rows depend: counted before that, they are others. Null: none. */
  dependsOn: number | null;
  /** The line of an earlier statement that decides which rows it meets, so that its counts hold only after that. */
  countDependsOn: number | null;
  /** A batch separator (GO) follows in the script. */
  endsBatch: boolean;
}

/** The queries that a careful person runs by hand, version 1 of the format `cautela.rehearsal`. */
export interface Rehearsal {
  format: "cautela.rehearsal";
  version: 1;
  path: string;
  dialect: DialectId;
  /** In the order of the script. They are undone in the opposite order. */
  sheets: RehearsalSheet[];
  frames: Record<Phase, PhaseFrame>;
}
