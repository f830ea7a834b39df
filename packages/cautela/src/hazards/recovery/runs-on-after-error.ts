import type { Draft, FinishContext, Hazard } from "../hazard.ts";

/**
 * The runner is told to go on after an error, or goes on by itself, where the next statement counts on the one before.
 *
 * @example
 * WHENEVER SQLERROR CONTINUE   -- the copy fails, and the DELETE runs all the same
 */
export const runsOnAfterError: Hazard = {
  id: "runs-on-after-error",
  family: "recovery",
  weight: "ask",
  title: "It goes on after an error",
  explanation:
    "A copy fails, and the DELETE after it runs all the same; the first half of a transfer fails, and the second is committed. psql, Oracle's shell and SQL " +
    "Server's batches go on after an error unless they are told otherwise. Asked where the script itself says to go on, and noted where a change counts on " +
    "a copy made just before and nothing stops it in between.",
  remedy:
    "\\set ON_ERROR_STOP on (psql), WHENEVER SQLERROR EXIT ROLLBACK (Oracle), SET XACT_ABORT ON (SQL Server), or one transaction around both (PostgreSQL).",
  example: {
    dialect: "plsql",
    ddl: "CREATE TABLE mooring (mooring_id NUMBER PRIMARY KEY, status VARCHAR2(20) NOT NULL);",
    dangerous: `WHENEVER SQLERROR CONTINUE
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';
COMMIT;`,
    sound: `WHENEVER SQLERROR EXIT ROLLBACK
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';
COMMIT;`,
  },
  finish({ timeline, dialect }) {
    const { errors, changes, destructions } = timeline;
    const split = [...acrossBatches(timeline), ...afterRollback(timeline), ...afterWarning(timeline)];
    if (split.length > 0 || errors?.stops) return split;
    const relying = destructions.find(
      (lost) =>
        lost.softener === null &&
        timeline.copies
          .of(lost.key)
          .some(
            (copy) =>
              copy.place < lost.copies &&
              !copy.handedOn &&
              lost.at.statement - copy.at.statement <= 3 &&
              !copy.temporary &&
              (lost.span === null || lost.span.implied || copy.at.statement < lost.span.at.statement),
          ),
    );
    const draft = (at: Draft["at"], weight: "ask" | "note", message: string, because: string[]): Draft[] => [
      { at, weight, message, because, remedy: REMEDIES[dialect.lexical.client] ?? "Stop at the first error." },
    ];
    if (errors && changes.length > 1)
      return draft(
        errors.at,
        "ask",
        "The script goes on after an error, and its later changes count on the earlier ones.",
        [`${changes.length} statements change rows`],
      );
    if (!relying || !GOES_ON.has(dialect.lexical.client)) return [];
    return draft(relying.at, "note", `If the copy before it fails, this still changes \`${relying.shown}\`.`, [
      `${RUNNERS[dialect.lexical.client] ?? "the runner"} goes on after an error unless it is told to stop`,
    ]);
  },
};

/** A transaction over several batches (tsql): one of them fails, and the client sends those after it all the same. */
function acrossBatches({ spans, errors, exits }: FinishContext["timeline"]): Draft[] {
  const span = spans.find(
    ({ batches, checked, changes, end }) => batches > 0 && changes > 0 && !checked && end === "commit",
  );
  if (!span || exits) return [];
  return [
    {
      at: span.at,
      weight: "note",
      message: `This transaction goes over ${span.batches + 1} batches: if one of them fails, those after it run all the same.`,
      because: [
        errors?.stops
          ? "XACT_ABORT takes back what came before, and what follows is then in no transaction"
          : "the statement that failed is left out, and what the others did is committed",
        "nothing in between looks whether something has failed",
      ],
      remedy:
        "Put :on error exit at the head of the script, or begin each batch with IF @@TRANCOUNT = 0 SET NOEXEC ON.",
    },
  ];
}

/** `IF @@ERROR <> 0 ROLLBACK` and nothing that leaves: what follows runs in no transaction. */
function afterRollback({ spans }: FinishContext["timeline"]): Draft[] {
  return spans.flatMap(({ goesOn }) =>
    goesOn?.next
      ? [
          {
            at: goesOn.at,
            weight: "ask" as const,
            message: `After this ROLLBACK the script goes on: line ${goesOn.next.region.line} then changes rows in no transaction.`,
            because: ["ROLLBACK ends the transaction and not the script"],
            remedy: "Leave after the ROLLBACK: RETURN, THROW, or GOTO the end.",
          },
        ]
      : [],
  );
}

/** `IF @n > 1000 RAISERROR (…)`: it tells, and the batch goes on (learn.microsoft.com, "RAISERROR (Transact-SQL)"). */
function afterWarning({ warned }: FinishContext["timeline"]): Draft[] {
  if (!warned?.next) return [];
  return [
    {
      at: warned.at,
      weight: "ask",
      message: `RAISERROR does not end the batch: line ${warned.next.region.line} changes rows all the same.`,
      because: ["only THROW, RETURN, or an error inside TRY leaves"],
      remedy: "Put RETURN after it, or write THROW.",
    },
  ];
}

const GOES_ON: ReadonlySet<string> = new Set(["psql", "sqlplus", "sqlcmd"]);

const RUNNERS: Readonly<Record<string, string>> = {
  psql: "psql",
  sqlplus: "Oracle's shell",
  sqlcmd: "a batch of SQL Server",
};

const REMEDIES: Readonly<Record<string, string>> = {
  psql: "Put \\set ON_ERROR_STOP on at the head of the script, or one transaction around both.",
  sqlplus: "Put WHENEVER SQLERROR EXIT ROLLBACK at the head of the script.",
  sqlcmd: "Put SET XACT_ABORT ON at the head of the script, or TRY and CATCH around both.",
  sqlite: "Put .bail on at the head of the script.",
};
