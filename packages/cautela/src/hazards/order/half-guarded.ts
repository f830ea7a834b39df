import type { Statement } from "../../sql/nodes/tree.ts";
import type { Hazard } from "../hazard.ts";

/**
 * IF stands before two statements and guards the first alone.
 *
 * @example
 * IF @paid = 1
 *     UPDATE mooring SET status = 'paid' WHERE mooring_id = 4
 *     DELETE FROM reminder WHERE mooring_id = 4      -- runs whatever IF says
 */
export const halfGuarded: Hazard = {
  id: "half-guarded",
  family: "order",
  weight: "ask",
  statements: ["if", "loop"],
  title: "An IF that guards one statement of two",
  explanation:
    "Without BEGIN and END an IF or WHILE holds one statement only. The next one is written as if it belonged to it, indented alike, but it runs in any case, " +
    "and in a loop only after the end.",
  remedy: "Put BEGIN and END around the statements that belong together, or move the second one to the left.",
  example: {
    dialect: "tsql",
    ddl: "CREATE TABLE mooring (mooring_id int PRIMARY KEY, status varchar(10) NOT NULL); CREATE TABLE reminder (reminder_id int PRIMARY KEY, mooring_id int NOT NULL);",
    dangerous: `DECLARE @paid int = 1
IF @paid = 1
    UPDATE mooring SET status = 'paid' WHERE mooring_id = 4
    DELETE FROM reminder WHERE mooring_id = 4`,
    sound: `DECLARE @paid int = 1
IF @paid = 1
BEGIN
    UPDATE mooring SET status = 'paid' WHERE mooring_id = 4
    DELETE FROM reminder WHERE mooring_id = 4
END`,
  },
  check({ tree, next, region, dialect }) {
    if (!next || !dialect.syntax.controlFlow || !CHANGES.has(next.kind)) return [];
    const body =
      tree.kind === "loop" ? tree.body : tree.kind === "if" ? tree.branches[tree.branches.length - 1].body : [];
    const [only] = body;
    if (body.length !== 1 || only.kind === "block" || only.kind === "if" || only.kind === "loop") return [];
    const [head, inner, after] = [region(tree), region(only), region(next)];
    // It stands under the one that is guarded, further in than the IF.
    if (inner.line === head.line || after.line === inner.endLine) return [];
    if (after.column !== inner.column || inner.column <= head.column) return [];
    const word = tree.kind === "loop" ? "WHILE" : "IF";
    return [
      {
        message: `Line ${after.line} is indented as if it belonged to this ${word}, but it runs in any case.`,
        because: [`without BEGIN and END, ${word} holds the statement on line ${inner.line} only`],
        remedy: "Put BEGIN and END around the statements that belong together.",
      },
    ];
  },
};

const CHANGES: ReadonlySet<Statement["kind"]> = new Set([
  "insert",
  "update",
  "delete",
  "merge",
  "truncate",
  "drop",
  "call-statement",
]);
