import { assignedIn, filterParts, usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { asksFor, isNullable, nullPasses } from "../../analysis/conditions/nullable.ts";
import { columnLike } from "../../catalog/columns.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { addition } from "../wording.ts";

/**
 * A NULL in an expression that passes it on.
 *
 * @example
 * UPDATE vessel SET note = REPLACE(note, 'old', NULL);   -- every note becomes NULL
 */
export const blanksValue: Hazard = {
  id: "blanks-value",
  family: "values",
  statements: ["update", "merge", "insert"],
  weight: "stop",
  title: "A NULL that blanks the whole value",
  explanation:
    "Most functions and operators give NULL when one of their arguments is NULL: REPLACE(x, 'a', NULL) and x || NULL are NULL for every row, " +
    "not the text without the piece. In Oracle the empty string is NULL as well, but concatenation there leaves NULL out.",
  remedy: "Write the empty string '' where a piece is to go; in Oracle leave the third argument of REPLACE out.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, note text);",
    dangerous: "UPDATE vessel SET note = REPLACE(note, 'old', NULL) WHERE vessel_id > 3;",
    sound: "UPDATE vessel SET note = REPLACE(note, 'old', '') WHERE vessel_id > 3;",
  },
  check(context) {
    const { tree, names, dialect, changes, show, inserted } = context;
    const drafts: Draft[] = [];
    if (dialect.engine.emptyIsNull)
      inserted?.columns.forEach((column, i) => {
        const empty = inserted.rows.some((row) => {
          const value = row[i] ? constant(row[i]) : null;
          return value?.type === "string" && value.value === "";
        });
        if (column?.required && empty)
          drafts.push({
            weight: "stop",
            message: `'' is NULL in Oracle, and \`${column.name}\` may not be NULL.`,
            because: ["Oracle keeps no empty strings"],
            remedy: "Write a value, for instance a blank or a dash.",
          });
      });
    for (const { column, value } of assignedIn(tree, names)) {
      if (value.kind === "column" || (value.kind === "literal" && !dialect.engine.emptyIsNull)) continue;
      const chain = tree.kind === "update" && (value.kind === "binary" || value.kind === "call");
      const taken = chain ? mayBlank(value, column.name, context) : null;
      if (taken) drafts.push(taken);
      const cause = blank(value, context);
      if (cause) {
        drafts.push({
          message: `\`${show(value)}\` is NULL for every row, so \`${column.name}\` loses its value.`,
          because: [`\`${show(cause)}\` has a NULL in it, and passes it on`],
          remedy: "Write '' where a piece of text is to go.",
        });
      }
      // The empty string is NULL (Oracle).
      const empty = constant(value);
      if (dialect.engine.emptyIsNull && empty?.type === "string" && empty.value === "") {
        const required = columnLike(changes[0]?.change.table, column.name)?.required;
        drafts.push({
          weight: required ? "stop" : "note",
          message: required
            ? `'' is NULL in Oracle, and \`${column.name}\` may not be NULL.`
            : `'' is NULL in Oracle: \`${column.name}\` becomes NULL, not an empty text.`,
          because: ["Oracle keeps no empty strings"],
          remedy: required ? "Write a value, for instance a blank or a dash." : "Write NULL if that is meant.",
        });
      }
    }
    return drafts;
  },
};

/** The column itself with another one added that may be NULL: what the column held is lost where the other one is empty. */
function mayBlank(value: Expr, column: string, context: HazardContext): Draft | null {
  const operands: Expr[] = [];
  if (value.kind === "literal" || !operandsOf(value, context, operands, 0)) return null;
  if (!operands.some((one) => usedColumn(one, context.names)?.name === column)) return null;
  const [judged] = context.changes;
  if (!judged || judged.softener || judged.result.filter === "dead") return null;
  const parts = filterParts(judged.change.conditions);
  const { table } = judged.change;
  const own = columnLike(table, column);
  for (const operand of operands) {
    const used = usedColumn(operand, context.names);
    const known = used?.offered?.column;
    // A column of a joined table may be NULL for other reasons.
    if (!known || used.relation?.table !== table || used.name === column || !isNullable(used)) continue;
    if (parts.some((part) => asksFor(part, used, context.names))) continue;
    return {
      weight: "ask",
      message: `Where \`${known.name}\` is NULL, \`${context.show(value)}\` is NULL too, and \`${column}\` of \`${judged.target}\` ${own?.required ? "may not be NULL" : "loses what it held"}.`,
      because: [`\`${known.name}\` may be NULL, and no condition leaves those rows out`],
      remedy: `Write COALESCE(${context.show(operand)}, …) with what is to stand there, or ${addition(context.tree, `${context.show(operand)} IS NOT NULL`)}.`,
    };
  }
  return null;
}

/** The operands of a chain of operators and functions that give NULL when one of them is NULL; false where it is no such chain. */
function operandsOf(expr: Expr, context: HazardContext, into: Expr[], depth: number): boolean {
  const { dialect } = context;
  if (depth > CHAIN) return false;
  const below = nullPasses(expr, dialect);
  for (const one of below) if (!operandsOf(one, context, into, depth + 1)) into.push(one);
  return below.length > 0;
}

const CHAIN = 100;

/** The part of an expression that is NULL whatever the row holds. */
function blank(expr: Expr, context: HazardContext): Expr | null {
  const { dialect } = context;
  const isNull = (one: Expr): boolean => {
    const value = constant(one);
    return value?.type === "null" || (dialect.engine.emptyIsNull && value?.type === "string" && value.value === "");
  };
  const below = nullPasses(expr, dialect);
  if (below.some(isNull)) return expr;
  for (const one of expr.kind === "binary" ? [expr.left, expr.right] : below) {
    const found = blank(one, context);
    if (found) return found;
  }
  return null;
}
