import { withoutComments } from "../constructs.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

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
  statements: ["opaque", "create-index", "create-schema", "drop", "setting", "transaction"],
  title: "A transaction that commits in the middle",
  explanation:
    "In MySQL, MariaDB and Oracle a statement that changes the structure commits whatever is open, without a word. What stands before it in the transaction " +
    "can no longer be rolled back, and what comes after it runs outside. PostgreSQL, SQLite and SQL Server roll structure back as well, and are quiet; what they " +
    "refuse inside a transaction (VACUUM, CREATE INDEX CONCURRENTLY), or leave undone there (PRAGMA foreign_keys), is told. Oracle is always in a transaction: " +
    "DDL is told where a ROLLBACK after it is to bring back what it has committed. A ROLLBACK without a BEGIN before it takes nothing back.",
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
  check(context) {
    const { tree, timeline, dialect, slice, session, show } = context;
    const { open } = timeline;
    if (!open && tree.kind === "transaction" && tree.action === "rollback" && !tree.name) return nothingOpen(context);
    const { refusedInTransaction: refused, idleInTransaction: idle } = dialect.run;
    if (!open || open.implied) return [];
    const begun = `the transaction of line ${open.at.region.line} is open`;
    if (tree.kind === "setting" && idle.has(tree.name))
      return [
        {
          refused: true,
          weight: "ask",
          message: `\`${show(tree)}\` does nothing inside a transaction: the setting stays as it was.`,
          because: [
            begun,
            session.keys === true
              ? "foreign keys are on: DROP TABLE deletes the rows of its table first, and with them what refers to them by ON DELETE CASCADE"
              : "if foreign keys are on, DROP TABLE deletes the rows of its table first, and with them what refers to them by ON DELETE CASCADE",
          ],
          remedy: "Put it before BEGIN, and switch back after COMMIT.",
        },
      ];
    const head = withoutComments(slice)(tree.start, Math.min(tree.end, tree.start + 300));
    if (!refused?.test(head)) return [];
    return [
      {
        refused: true,
        message: `The engine refuses \`${show(tree)}\` inside a transaction.`,
        because: [begun],
        remedy: "Put it before BEGIN or after COMMIT.",
      },
    ];
  },
  finish({ timeline, dialect }) {
    return timeline.silentCommits.map(({ at, span, what }) => ({
      at,
      weight: span.changes > 0 ? ("stop" as const) : ("note" as const),
      ...(span.changes > 0 ? {} : { cause: "nothing has been changed before" }),
      message: `${what} commits ${span.implied ? "what was changed before it" : `the transaction of line ${span.at.region.line}`} here${span.changes > 0 && !span.implied ? ", with the changes made in it so far" : ""}.`,
      because: [
        `in ${dialect.title} ${what === "BEGIN" ? "a second BEGIN" : "a statement that changes the structure"} commits by itself`,
        "a ROLLBACK after it brings nothing back that stands before it",
      ],
      remedy: "Put it before BEGIN or after COMMIT.",
    }));
  },
};

/** ROLLBACK where no transaction was begun: each change before it was committed by itself. */
function nothingOpen({ timeline, conditional, gates, slice }: HazardContext): Draft[] {
  const last = timeline.changes[timeline.changes.length - 1];
  if (!last || timeline.spans.length > 0) return [];
  // IF @@TRANCOUNT > 0 ROLLBACK asks for one, and in a handler of errors nobody knows.
  const asks = gates.some(({ condition }) => /trancount|xact_state/i.test(slice(condition.start, condition.end)));
  if (conditional && (gates.length === 0 || asks)) return [];
  return [
    {
      weight: conditional ? "ask" : "stop",
      message: "No transaction is open here, so this takes nothing back.",
      because: [`line ${last.at.region.line} is committed by itself: no BEGIN stands before it`],
      remedy: "Begin a transaction before the changes that are to be taken back.",
    },
  ];
}
