/** When the queries of a rehearsal are run. */
export type Phase = "before" | "change" | "after" | "restore";

export const PHASES: readonly Phase[] = ["before", "change", "after", "restore"];

/** What stands around the queries of a phase, so that a client program runs them as one. */
export interface PhaseFrame {
  /** What has to be known before it is run; null: nothing. */
  note: string | null;
  /** Lines for the client program: stop at the first error. */
  client: readonly string[];
  /** Statements of the script that choose the database or the path, and the start of the transaction. */
  head: readonly string[];
  foot: readonly string[];
}
