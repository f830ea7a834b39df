import { conjuncts } from "../../analysis/changes/reach.ts";
import { holdsFromOne, MIRRORED } from "../../analysis/conditions/bounds.ts";
import { assignedIn, type ConstantValue, sameValue, usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { withoutNot } from "../../analysis/conditions/negation.ts";
import type { Resolution } from "../../analysis/names/resolution.ts";
import { isBusiness, namesSettings } from "../../analysis/script/table-class.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { namesKeyOf, spelledColumn } from "../../catalog/columns.ts";
import { bareName } from "../../catalog/names.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext, JudgedChange } from "../hazard.ts";
import { refilled } from "../refilled.ts";
import { allRows, oneLine, verb } from "../wording.ts";

/**
 * A filter that is always true, however it is written.
 *
 * @example
 * DELETE FROM pilotage WHERE pilot_id = 4 OR 1 = 1;   -- stop: deletes all rows of `pilotage`
 */
export const hollowFilter: Hazard = {
  id: "hollow-filter",
  family: "rows",
  weight: "stop",
  subsumes: ["no-way-back"],
  depends: ["names", "code"],
  needs: Trait.change,
  title: "A filter that lets everything through",
  explanation:
    "There is a WHERE, but no row fails it: it compares constants or a column with itself, a part joined by OR is " +
    "always true, a pattern matches every text, a required column is asked whether it is NOT NULL, a key is looked " +
    "for in its own table, or an EXISTS has no tie to the row. A constant for all rows that do not have it yet comes to the same. The statement reaches the whole table and looks as if " +
    "it did not.",
  remedy:
    "Replace the part that is always true by the condition that was meant. If every row is meant, omit the WHERE and say so.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE pilotage (pilotage_id integer PRIMARY KEY, pilot_id integer NOT NULL, note text);",
    dangerous: "DELETE FROM pilotage WHERE pilot_id = 4 OR pilot_id IS NOT NULL;",
    sound: "DELETE FROM pilotage WHERE pilot_id = 4 OR note IS NOT NULL;",
  },
  check(context) {
    const { changes, slice, catalog, dialect, at } = context;
    return [
      ...changes.flatMap((judged) => levelled(judged, context) ?? everyKey(judged, context) ?? []),
      ...changes
        .filter(({ result, softener }) => result.filter === "hollow" && softener === null)
        // What slips is told by its own name.
        .filter(({ result }) => !result.reasons.some(({ slipped }) => slipped))
        .map((judged) => {
          const { result, target, copy } = judged;
          const because = result.reasons.map(
            ({ expr, text }) => `\`${oneLine(slice(expr.start, expr.end))}\`: ${text}`,
          );
          if (because.length === 0) because.push("the whole condition is true for every row");
          const partly = result.reach.bound === "some";
          if (partly) because.push("only rows in which that column is NULL are left out");
          if (copy) because.push(copy);
          const rows = partly ? `every row of \`${target}\` that has a value there` : allRows(judged);
          // An EXISTS without a tie is true or false for all rows at once, as the other table happens to be.
          const untied = result.reasons.length > 0 && result.reasons.every(({ expr }) => expr.kind === "exists");
          const draft: Draft = {
            weight: copy ? ("ask" as const) : ("stop" as const),
            message: untied
              ? `The filter does not ask about the row, so this ${verb(judged)} ${rows}, or none.`
              : `The filter is always true, so this ${verb(judged)} ${rows}.`,
            because,
            remedy:
              "Replace the part that is always true by the condition you mean. If every row is meant, omit the WHERE and keep a copy first.",
          };
          if (judged.change.action === "delete" && !untied && !partly)
            draft.settle = (script) =>
              refilled(draft, target, relationKey(judged.change.name, catalog, dialect), at, script);
          return draft;
        }),
    ];
  },
};

/** A constant for all rows but those that have it already: nothing is left of what the column held. */
function levelled(judged: JudgedChange, { tree, names, policy, dialect, show }: HazardContext): Draft | null {
  const { change, result, target, softener, copy } = judged;
  if (tree.kind !== "update" || result.filter !== "filters" || softener || copy) return null;
  // Told at a glance for most filters.
  const conditions = change.conditions.length === 1 ? conjuncts(change.conditions[0].expr) : [];
  if (conditions.length === 0 || !conditions.every(mayLeaveOut)) return null;
  if (!isBusiness(target, policy) || namesSettings(target)) return null;
  const parts = conditions.map((part) => leftOut(part, names));
  const [left] = parts;
  if (!left || parts.some((one) => one?.column !== left.column || !sameValue(one.value, left.value))) return null;
  const isNull = (value: ConstantValue | null): boolean =>
    value?.type === "null" || (dialect.engine.emptyIsNull && value?.type === "string" && value.value === "");
  const same = assignedIn(tree, names).find(({ column, value }) => {
    const given = constant(value);
    if (column.name !== left.column || given === null) return false;
    return isNull(left.value) ? isNull(given) : sameValue(given, left.value);
  });
  if (!same) return null;
  const column = change.table ? spelledColumn(change.table, left.column) : show(same.target);
  return {
    weight: "ask",
    message: `Every row of \`${target}\` gets ${show(same.value)} in \`${column}\`: the filter leaves out only those that have it already.`,
    because: ["nothing is left of the values that the column holds"],
    remedy: "Add the condition that picks the rows you mean. If every row is meant, keep a copy first.",
  };
}

/** `id > 0`, and nothing else: where nothing says how keys are numbered, they most likely begin at 1. */
function everyKey(judged: JudgedChange, { tree, names, policy, slice }: HazardContext): Draft | null {
  const { change, result, target, softener, copy } = judged;
  if (result.filter !== "filters" || softener || copy || ("limit" in tree && tree.limit)) return null;
  const [only, more] = change.conditions;
  if (!only || more || !isBusiness(target, policy)) return null;
  const [first, ...others] = conjuncts(only.expr).map(withoutNot);
  const key = leavesOutNoKey(first);
  const column = key && usedColumn(key, names);
  if (!column) return null;
  const { table } = change;
  const own = table?.primaryKey?.columns;
  const isKey = own
    ? own.length === 1 && own[0].toLowerCase() === column.name
    : namesKeyOf(column.name, bareName(target));
  // What is joined has keys of its own.
  const same = others.every((other) => {
    const asked = leavesOutNoKey(other);
    return asked !== null && usedColumn(asked, names)?.name === column.name;
  });
  if (!isKey || !same || (column.relation && table && column.relation.table !== table)) return null;
  const when =
    first.kind === "is" ? `if \`${slice(key.start, key.end)}\` is its key` : "if its keys are counted from 1";
  return {
    weight: "ask",
    message: `\`${oneLine(slice(only.expr.start, only.expr.end))}\` leaves out no row of \`${target}\` ${when}.`,
    because: ["nothing else is asked of the rows"],
    remedy: "Add the condition that picks the rows you mean. If every row is meant, keep a copy first.",
  };
}

/** The column of which a condition asks only that it is above 0, or not 0, or not NULL. */
function leavesOutNoKey(expr: Expr): Expr | null {
  if (expr.kind === "is") return expr.negated && expr.test === "null" ? expr.operand : null;
  if (expr.kind !== "binary") return null;
  const flipped = constant(expr.right) === null;
  const [column, bound] = flipped ? [expr.right, constant(expr.left)] : [expr.left, constant(expr.right)];
  const op = flipped ? (MIRRORED[expr.op] ?? expr.op) : expr.op;
  return bound?.type === "number" && holdsFromOne(op, bound.value) ? column : null;
}

function mayLeaveOut(part: Expr): boolean {
  return (
    part.kind === "is" || part.kind === "unary" || (part.kind === "binary" && (part.op === "<>" || part.op === "!="))
  );
}

/** The one value of a column whose rows a condition leaves out: `status <> 'left'`, `note IS NOT NULL`. */
function leftOut(condition: Expr, names: Resolution | null): { column: string; value: ConstantValue } | null {
  const expr = withoutNot(condition);
  if (expr.kind === "is") {
    const column = usedColumn(expr.operand, names);
    if (!column || !expr.negated || expr.test !== "null") return null;
    return { column: column.name, value: { type: "null" } };
  }
  if (expr.kind !== "binary" || (expr.op !== "<>" && expr.op !== "!=")) return null;
  const column = usedColumn(expr.left, names) ?? usedColumn(expr.right, names);
  const value = constant(expr.right) ?? constant(expr.left);
  return column && value ? { column: column.name, value } : null;
}
