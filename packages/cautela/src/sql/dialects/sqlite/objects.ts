import { objectWords, words } from "../objects.ts";

/** What CREATE, ALTER and DROP name a kind of object by; words after: SQLite, "SQL as understood by SQLite". */
export const sqliteObjects = objectWords("index table trigger view");

/** The first words of what ALTER TABLE does. */
export const sqliteTableActions = words("add alter drop rename");

/** Words of the clauses of a column or a constraint that the grammar need not know. */
export const sqliteClauseWords = words("hidden");
