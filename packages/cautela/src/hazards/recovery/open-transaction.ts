import type { Hazard } from "../hazard.ts";

/**
 * A transaction that the script does not end.
 *
 * @example
 * BEGIN; UPDATE mooring SET fee = 12 WHERE mooring_id = 3;   -- and nothing after it
 */
export const openTransaction: Hazard = {
  id: "open-transaction",
  family: "recovery",
  weight: "ask",
  title: "A transaction without an end",
  explanation:
    "The script begins a transaction, changes rows, and ends with neither COMMIT nor ROLLBACK. Run from a file the changes are undone when the session closes; " +
    "in an open window they wait, hold their locks, and are committed by whatever comes next. To look at the result first is good practice; the script " +
    "should say so.",
  remedy: "End it with COMMIT, or with ROLLBACK for a trial run.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL);",
    dangerous: "BEGIN;\nUPDATE mooring SET fee = 12 WHERE mooring_id = 3;",
    sound: "BEGIN;\nUPDATE mooring SET fee = 12 WHERE mooring_id = 3;\nCOMMIT;",
  },
  finish({ timeline, dialect }) {
    // Oracle is always in a transaction, and its shell commits when it leaves.
    if (dialect.run.alwaysInTransaction) return [];
    return timeline.spans
      .filter((span) => span.end === "open" && span.changes > 0)
      .map((span) => ({
        at: span.at,
        message: "This transaction is still open at the end of the script.",
        because: [
          `${span.changes === 1 ? "one statement changes" : `${span.changes} statements change`} rows in it`,
          "neither COMMIT nor ROLLBACK follows",
        ],
        remedy: "End it with COMMIT, or with ROLLBACK for a trial run.",
      }));
  },
};
