import { conjuncts } from "../../analysis/changes/reach.ts";
import { isRelative } from "../../analysis/changes/relative-value.ts";
import { assignedIn } from "../../analysis/conditions/conditions.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { InsertStatement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Hazard, HazardContext } from "../hazard.ts";

/**
 * The same change twice in one script.
 *
 * @example
 * UPDATE mooring SET fee = fee * 1.05 WHERE berth_id = 3;
 * UPDATE mooring SET fee = fee * 1.05 WHERE berth_id = 3;
 */
export const repeatedChange: Hazard = {
  id: "repeated-change",
  family: "order",
  statements: ["update", "delete", "insert"],
  weight: "ask",
  title: "The same change twice",
  explanation:
    "The script holds the same statement a second time, word for word: pasted twice, or one of the two was to be altered. A relative change " +
    "then applies twice, an INSERT brings its rows in twice; other changes do nothing the second time.",
  remedy: "Remove one of the two, or make the alteration that was meant.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL, note text);",
    dangerous:
      "UPDATE mooring SET note = 'a' WHERE mooring_id = 3;\nUPDATE mooring SET note = 'a' WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET note = 'a' WHERE mooring_id = 3;\nUPDATE mooring SET note = 'a' WHERE mooring_id = 4;",
  },
  check(context) {
    const { tree, names, history, changes, catalog, next, statement, inCode, conditional } = context;
    // In a block a name may be a variable that has another value by now, and a branch need not run.
    if (inCode && (conditional || !names || names.open.length > 0 || changes.some(({ change }) => !change.table)))
      return [];
    const isRelated = (): boolean =>
      tree.kind === "update" &&
      assignedIn(tree, names).some(
        ({ column, value, assignment }) => assignment.op !== "=" || isRelative(value, column.name, context),
      );
    // A lone slash after a statement that has ended runs it again (Oracle's shell).
    const again =
      context.dialect.lexical.client === "sqlplus" &&
      statement.terminator === ";" &&
      next?.kind === "directive" &&
      next.tree.kind === "directive" &&
      next.tree.text.trim() === "/";
    const seen = again || context.text === null ? null : history.seen(context.text);
    if (!again && (seen === null || seen.count > 1)) return [];
    const relative = isRelated();
    if (again && (tree.kind === "update" || tree.kind === "insert" || tree.kind === "delete")) {
      return [
        {
          weight: relative || tree.kind === "insert" ? "stop" : "note",
          message: "The lone / after this statement runs it a second time.",
          because: ["the semicolon has run it already, and / runs what stands in the buffer"],
          remedy: "Remove the /, or the semicolon.",
        },
      ];
    }
    if (tree.kind !== "update" && tree.kind !== "delete" && tree.kind !== "insert") return [];
    const text = context.text;
    const before = text === null ? null : history.seen(text);
    // A statement that stands there a hundred times is told of once.
    if (before && before.count > 1) return [];
    if (!before || changes.some(({ softener }) => softener)) return [];
    if (isAnotherNow(context, before.statement)) return [];
    if (tree.kind === "insert") {
      const name = tree.target.kind === "table" ? tree.target.name : null;
      const table = name ? catalog?.resolve(name) : undefined;
      // Without a key the second one goes in as well; with one it fails.
      if (tree.source?.body.kind === "values" && tree.source.body.rowCount > 5) return [];
      // It adds nothing where the rows are there.
      if (asksFirst(tree)) return [];
      return [
        {
          weight: "ask",
          message: `The same rows are inserted a second time: line ${before.line} has the same statement.`,
          because: [
            table && (table.primaryKey || table.uniqueKeys.length > 0)
              ? "where a key is given, the second one fails"
              : "no key is known that would refuse them",
          ],
          remedy: "Remove one of the two.",
        },
      ];
    }
    const end = statement.terminator === ";" ? terminated(statement.end, context) : statement.end;
    const edits = [{ ...context.region({ start: statement.start, end }), text: "" }];
    return [
      {
        ...(statement.terminator === ";" ? { fix: { title: "Remove the second one", edits } } : {}),
        weight: relative ? "stop" : "ask",
        message: relative
          ? `The same relative change stands on line ${before.line}: it applies twice.`
          : `The same statement stands on line ${before.line}: one of the two was to be another one, or is one too many.`,
        because: [
          "the two do the same, word for word or in other words",
          relative
            ? "the second one goes on from what the first has written"
            : "the second one finds nothing left to do",
        ],
        remedy: "Remove one of the two, or make the alteration that was meant.",
      },
    ];
  },
};

/** Whether an INSERT leaves out what is there: WHERE NOT EXISTS, NOT IN, IGNORE, ON CONFLICT. */
function asksFirst({ source, ignore, conflicts, replace }: InsertStatement): boolean {
  if (ignore || replace || conflicts.length > 0) return true;
  const body = source?.body;
  return (
    body?.kind === "select" &&
    body.where !== null &&
    conjuncts(body.where).some(
      (part) =>
        (part.kind === "unary" && part.op === "not" && part.operand.kind === "exists") ||
        (part.kind === "in" && part.negated && part.query !== null),
    )
  );
}

/** Whether what a statement meets or writes has changed since it stood there before: it is not the same any more. */
function isAnotherNow({ tree, history, catalog, dialect, changes }: HazardContext, since: number): boolean {
  const own = new Set(changes.map(({ change }) => relationKey(change.name, catalog, dialect)));
  if (tree.kind === "insert" && tree.target.kind === "table") own.add(relationKey(tree.target.name, catalog, dialect));
  let another = false;
  let variable = false;
  walk(tree, (node) => {
    if (node.kind === "variable" || node.kind === "placeholder") variable = true;
    if (node.kind !== "table") return undefined;
    if (history.isInUnread(node.name.parts[node.name.parts.length - 1].text)) another = true;
    const key = relationKey(node.name, catalog, dialect);
    const { brought, updated, removed, changed } = history.touched(key);
    // The same DELETE after an UPDATE or an INSERT meets other rows; the same raise meets new rows only after an INSERT.
    const last = !own.has(key)
      ? changed
      : tree.kind === "insert"
        ? removed
        : tree.kind === "delete"
          ? Math.max(brought, updated)
          : brought;
    if (last > since) another = true;
    return undefined;
  });
  return another || (variable && history.assigned > since);
}

/** Where the semicolon after a statement ends. */
function terminated(end: number, { slice, statement }: HazardContext): number {
  if (statement.terminator !== ";") return end;
  const after = slice(end, end + 200);
  const at = after.indexOf(";");
  return at >= 0 && after.slice(0, at).trim() === "" ? end + at + 1 : end;
}
