import type { Expr, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A row count is read when another statement has already put its own in its place.
 *
 * @example
 * DELETE FROM tide_reading WHERE station = 3
 * PRINT 'deleted'
 * IF @@ROWCOUNT = 0 ROLLBACK      -- always: PRINT has set it to 0
 */
export const staleCount: Hazard = {
  id: "stale-count",
  family: "recovery",
  weight: "ask",
  statements: ["if", "loop", "assign", "declare", "select", "block", "create-routine"],
  title: "A row count that is read too late",
  explanation:
    "@@ROWCOUNT and ROW_COUNT() tell of the statement right before. PRINT, SET, COMMIT and an IF in between put 0 or 1 in its place: a check on it then rolls back, or " +
    "lets through, whatever the change has done, and a loop ends after one round or never.",
  remedy: "Keep the count in a variable right after the change, and check that.",
  example: {
    dialect: "tsql",
    ddl: "CREATE TABLE tide_reading (reading_id int PRIMARY KEY, station int NOT NULL);",
    dangerous: `BEGIN TRANSACTION
DELETE FROM tide_reading WHERE station = 3
PRINT 'deleted'
IF @@ROWCOUNT > 10 ROLLBACK ELSE COMMIT`,
    sound: `BEGIN TRANSACTION
DELETE FROM tide_reading WHERE station = 3
IF @@ROWCOUNT > 10 ROLLBACK ELSE COMMIT`,
  },
  check({ tree, previous, line }) {
    const drafts: Draft[] = [];
    const pair = (before: Statement | null, reads: Statement): void => {
      const left = before && readsCount(reads) ? leaves(before) : null;
      if (!before || !left || drafts.length >= 5) return;
      drafts.push({
        message: `The row count on line ${line(reads.start)} is not that of the change: ${left.what} on line ${line(before.start)} has made it ${left.count}.`,
        because: ["the count tells of the statement right before it is read"],
        remedy: "Keep the count in a variable right after the change, and check that.",
      });
    };
    const list = (body: readonly Statement[]): void => {
      for (let i = 1; i < body.length; i++) pair(body[i - 1], body[i]);
    };
    pair(previous?.tree ?? null, tree);
    walk(tree, (node) => {
      if (node.kind === "block") {
        list(node.body);
        for (const { body } of node.handlers) list(body);
      } else if (node.kind === "if") for (const { body } of node.branches) list(body);
      else if (node.kind === "loop") {
        list(node.body);
        const last = lastOf(node.body);
        const left = last && node.condition && holdsCount(node.condition) ? leaves(last) : null;
        if (last && left && drafts.length < 5)
          drafts.push({
            weight: left.count === 1 ? "stop" : "ask",
            message: `This loop ${left.count === 1 ? "never ends" : "runs once"}: ${left.what} on line ${line(last.start)} makes the row count ${left.count} in every round.`,
            because: ["WHILE reads the count of the last statement of its body"],
            remedy: "Keep the count in a variable right after the change, and let WHILE ask for that.",
          });
      }
      return undefined;
    });
    return drafts;
  },
};

function lastOf(body: readonly Statement[]): Statement | null {
  const last = body[body.length - 1];
  return last?.kind === "block" && last.handlers.length === 0 ? lastOf(last.body) : (last ?? null);
}

/** What a statement leaves as the row count that is not one of rows (learn.microsoft.com, "@@ROWCOUNT"; mysql.com, "ROW_COUNT()"). */
function leaves(tree: Statement): { what: string; count: 0 | 1 } | null {
  switch (tree.kind) {
    case "setting":
      return { what: "SET", count: 0 };
    case "transaction":
      return tree.action === "begin" || tree.action === "commit"
        ? { what: tree.action === "begin" ? "BEGIN" : "COMMIT", count: 0 }
        : null;
    case "assign":
      return tree.assignments.every(({ targets }) => targets.every(({ kind }) => kind === "variable"))
        ? { what: "SET", count: 1 }
        : null;
    case "opaque":
      return tree.verb === "print" || tree.verb === "raiserror" ? { what: tree.verb.toUpperCase(), count: 0 } : null;
    case "if":
      return tree.branches.length === 1 && tree.branches[0].condition && holdsError(tree.branches[0].condition)
        ? { what: "IF", count: 0 }
        : null;
    default:
      return null;
  }
}

/** Whether a statement reads the count before it does anything else. */
function readsCount(tree: Statement): boolean {
  switch (tree.kind) {
    case "if":
      return tree.branches[0].condition !== null && holdsCount(tree.branches[0].condition);
    case "loop":
      return tree.condition !== null && holdsCount(tree.condition);
    case "assign":
      return tree.assignments.some(({ value }) => holdsCount(value));
    case "declare":
      return tree.value !== null && holdsCount(tree.value);
    case "select":
      return (
        tree.query.body.kind === "select" &&
        tree.query.body.from.length === 0 &&
        tree.query.body.items.some(({ expr }) => holdsCount(expr))
      );
    default:
      return false;
  }
}

function holdsCount(expr: Expr): boolean {
  return holds(expr, (node) =>
    node.kind === "variable"
      ? /^@@rowcount$/i.test(node.name)
      : node.kind === "call" && /^(?:row_count|rowcount_big)$/i.test(node.name.parts[0].text),
  );
}

function holdsError(expr: Expr): boolean {
  return holds(expr, (node) => node.kind === "variable" && /^@@error$/i.test(node.name));
}

function holds(expr: Expr, test: (node: Parameters<Parameters<typeof walk>[1]>[0]) => boolean): boolean {
  let found = false;
  walk(expr, (node) => {
    found ||= test(node);
    return found ? false : undefined;
  });
  return found;
}
