import type { Hazard } from "../hazard.ts";

/**
 * A statement that commits the transaction in which it stands.
 *
 * @example
 * START TRANSACTION; UPDATE mooring SET fee = 0 WHERE mooring_id = 3; ALTER TABLE mooring ADD COLUMN x int; ROLLBACK;
 */
export const brokenTransaction: Hazard = {
  id: "broken-transaction",
  family: "recovery",
  weight: "stop",
  title: "A transaction that commits in the middle",
  explanation:
    "In MySQL, MariaDB and Oracle a statement that changes the structure commits whatever is open, without a word. What stands before it in the transaction " +
    "can no longer be rolled back, and what comes after it runs outside. PostgreSQL, SQLite and SQL Server roll structure back as well, and are quiet.",
  remedy: "Put the DDL statements before BEGIN or after COMMIT.",
  example: {
    dialect: "mariadb",
    ddl: "CREATE TABLE mooring (mooring_id int PRIMARY KEY, fee int NOT NULL);",
    dangerous: `START TRANSACTION;
UPDATE mooring SET fee = 12 WHERE mooring_id = 3;
ALTER TABLE mooring ADD COLUMN remark varchar(40);
COMMIT;`,
    sound: `ALTER TABLE mooring ADD COLUMN remark varchar(40);
START TRANSACTION;
UPDATE mooring SET fee = 12 WHERE mooring_id = 3;
COMMIT;`,
  },
  finish({ timeline, dialect }) {
    return timeline.silentCommits.map(({ at, span, what }) => ({
      at,
      weight: span.changes > 0 ? ("stop" as const) : ("note" as const),
      ...(span.changes > 0 ? {} : { cause: "nothing has been changed before" }),
      message: `${what} commits the transaction of line ${span.at.region.line} here${span.changes > 0 ? ", with the changes made in it so far" : ""}.`,
      because: [
        `in ${dialect.title} ${what === "BEGIN" ? "a second BEGIN" : "a statement that changes the structure"} commits by itself`,
        "a ROLLBACK after it brings nothing back that stands before it",
      ],
      remedy: "Put it before BEGIN or after COMMIT.",
    }));
  },
};
