import { storedConstant } from "../../analysis/changes/stored-constant.ts";
import { assignedIn, type ConstantValue, usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant, plainColumn } from "../../analysis/conditions/constants.ts";
import { tooLongFor } from "../../analysis/conditions/too-long.ts";
import { columnLike } from "../../catalog/columns.ts";
import type { Column } from "../../catalog/model.ts";
import { decimalLimit, integerLimit, textLimit, valueKind } from "../../catalog/types.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A value that is of another type, too long, too large, or loses its fraction.
 *
 * @example
 * UPDATE mooring SET fee = fee * (105 / 100);   -- 105 / 100 is 1 between whole numbers
 */
export const mayNotFit: Hazard = {
  id: "may-not-fit",
  family: "values",
  statements: ["update", "insert", "merge"],
  weight: "stop",
  depends: ["names"],
  title: "A value that does not fit",
  explanation:
    "The constant is of another type than the column and cannot be turned into it, is longer, has more digits than the column takes, or lies outside " +
    "its range: engines refuse it, or cut it off when they are not strict. SQLite keeps what it is given. A division between whole numbers gives a whole number in PostgreSQL, SQLite and T-SQL, so 105 / 100 is 1.",
  remedy: "Shorten the value, widen the column first, or write one side of the division with a decimal point.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(8) NOT NULL, fee numeric(10,2) NOT NULL);",
    dangerous: "UPDATE mooring SET status = 'cancelled' WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET status = 'left' WHERE mooring_id = 3;",
  },
  check({ tree, names, changes, catalog, dialect, show, found, inserted }) {
    const drafts: Draft[] = [];
    const say = (column: string, what: string): void => {
      if (drafts.length >= 5) return;
      const lax = dialect.engine.ignoreBendsValues ? " (or cuts it off, when it is not strict)" : "";
      drafts.push({
        message: `${what} does not fit into \`${column}\`, so the engine refuses it${lax}.`,
        refused: lax === "",
        because: [],
        remedy: "Write a value of the column's type and size, or change the column first.",
      });
    };
    const look = (column: Column | null | undefined, expr: Expr | undefined): void => {
      if (!column || !expr) return;
      const value = constant(expr);
      const stored = value && storedConstant(value, column, catalog, dialect);
      const why =
        stored?.kind === "refused"
          ? stored.why
          : stored?.kind === "kept"
            ? tooMuch(stored.value, column, dialect)
            : null;
      if (why) {
        say(column.name, `\`${show(expr)}\``);
        drafts[drafts.length - 1].because.push(why);
      }
    };
    for (const { column, value } of assignedIn(tree, names)) {
      const known = column.offered?.column ?? columnLike(changes[0]?.change.table, column.name);
      look(known, value);
      const long = known && dialect.engine.desktopRules && value.kind === "column" ? usedColumn(value, names) : null;
      const from = long?.offered?.column;
      if (known && from?.type === "memo" && textLimit(known, dialect) !== null)
        drafts.push({
          weight: "ask",
          message: `\`${from.name}\` is long text, and \`${known.name}\` takes ${textLimit(known, dialect)} characters: what is longer is lost.`,
          because: ["a value that does not fit is not written, after one warning for all rows"],
          remedy: `Look for rows where Len(${show(value)}) is greater first, or widen the column.`,
        });
      const added = known ? addedText(value, column.name) : null;
      const tooLong = added !== null && known ? tooLongFor(added, known, dialect) : null;
      if (tooLong) {
        say(column.name, `\`${show(value)}\``);
        drafts[drafts.length - 1].because.push(`the text that is added does not fit even alone: ${tooLong}`);
      }
      const division = found.divisions.length > 0 ? wholeDivision(value, dialect) : null;
      if (division) {
        drafts.push({
          message: `\`${show(division.expr)}\` is ${division.result} between whole numbers, not ${division.exact}.`,
          because: [`${dialect.title} divides whole numbers without a fraction`],
          remedy: `Write ${division.left}.0 / ${division.right}`,
        });
      }
    }
    if (inserted?.table)
      for (const row of inserted.rows) for (const [i, column] of inserted.columns.entries()) look(column, row[i]);
    return drafts;
  },
};

function tooMuch(value: ConstantValue, column: Column, dialect: Dialect): string | null {
  if (value.type === "string") {
    const limit = textLimit(column, dialect);
    // No text has more characters than it has units.
    if (limit === null || value.value.length <= limit) return null;
    const length = [...value.value].length;
    return length > limit ? `it has ${length} characters, and \`${column.name}\` takes ${limit}` : null;
  }
  if (value.type !== "number") return null;
  const digits = decimalLimit(column, dialect);
  if (digits && Math.abs(value.value) >= 10 ** Math.max(0, digits.whole))
    return `\`${column.name}\` takes ${digits.whole} digits before the point`;
  const range = valueKind(column, dialect) === "integer" ? integerLimit(column, dialect) : null;
  if (range && (value.value < range.low || value.value > range.high))
    return `\`${column.name}\` takes ${range.low} to ${range.high}`;
  return null;
}

/** The constant text that a value puts before or after the column's old one: `'SLOW-' || code`, `CONCAT('SLOW-', code)`. */
function addedText(value: Expr, column: string): string | null {
  const joined = value.kind === "binary" && (value.op === "||" || value.op === "+" || value.op === "&");
  const concat = value.kind === "call" && /^concat$/i.test(value.name.parts[value.name.parts.length - 1].text);
  const parts = joined ? [value.left, value.right] : concat ? value.args : [];
  const old = parts.some((part) => plainColumn(part)?.path.at(-1)?.text.toLowerCase() === column);
  const text = parts.map((part) => constant(part));
  return old ? text.map((one) => (one?.type === "string" ? one.value : "")).join("") : null;
}

/** A division of two whole constants that does not come out even. */
function wholeDivision(
  value: Expr,
  dialect: Dialect,
): { expr: Expr; left: number; right: number; result: number; exact: number } | null {
  if (!dialect.engine.integerDivision) return null;
  let found: { expr: Expr; left: number; right: number; result: number; exact: number } | null = null;
  walk(value, (node) => {
    if (found || node.kind !== "binary" || node.op !== "/") return undefined;
    const whole = (expr: Expr): number | null =>
      expr.kind === "literal" && expr.type === "number" && /^\d+$/.test(expr.value) ? Number(expr.value) : null;
    const left = whole(node.left);
    const right = whole(node.right);
    if (left === null || right === null || right === 0 || left % right === 0) return undefined;
    found = { expr: node, left, right, result: Math.trunc(left / right), exact: left / right };
    return undefined;
  });
  return found;
}
