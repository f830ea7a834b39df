/** What is known of a script besides its text: when it is to run, and what it is to other scripts. */
export interface ScriptOrigin {
  /** The day or the moment at which it is to run: `2026-12-24`, `2026-12-24T17:30`; null: nobody says. */
  readonly date: string | null;
  /** It has probably run already, and was changed since: what is known of that; null: nobody says so. */
  readonly rewritten: string | null;
  /** The script that it takes back, and what does not come back; null: it takes none back. */
  readonly undoes: ({ readonly path: string } & UndoGaps) | null;
  /** The script that takes it back and brings all of its structure back; null: none does. */
  readonly undoneBy: string | null;
}

/** What a script that takes another back does not bring back, in words. */
export interface UndoGaps {
  /** Structure that is another than it was. */
  readonly structure: readonly string[];
  /** Rows and values that are gone or left over. */
  readonly rows: readonly string[];
}
