import { assignedIn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnLike } from "../../catalog/columns.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

const PASSES_ON =
  /^(?:replace|regexp_replace|translate|substr|substring|upper|lower|trim|ltrim|rtrim|lpad|rpad|round|abs|json_set|jsonb_set|left|right|overlay|stuff|instr|mod|power|date_add|date_sub|dateadd)$/i;

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
  needs: Trait.null,
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

/** The part of an expression that is NULL whatever the row holds. */
function blank(expr: Expr, context: HazardContext): Expr | null {
  const { dialect } = context;
  const isNull = (one: Expr): boolean => {
    const value = constant(one);
    return value?.type === "null" || (dialect.engine.emptyIsNull && value?.type === "string" && value.value === "");
  };
  if (expr.kind === "binary") {
    // Oracle and Jet's & leave a NULL out of a concatenation; || is OR in mysql.
    if (expr.op === "||" && (dialect.engine.emptyIsNull || dialect.grammar.pipesAreOr)) return null;
    if (expr.op === "&" && dialect.engine.ampersandSkipsNull) return null;
    if (/^(?:\|\||[-+*/%&])$/.test(expr.op) && (isNull(expr.left) || isNull(expr.right))) return expr;
    return blank(expr.left, context) ?? blank(expr.right, context);
  }
  if (expr.kind === "call") {
    const name = expr.name.parts[expr.name.parts.length - 1].text;
    if (/^concat$/i.test(name) && dialect.engine.concatBlanks && expr.args.some(isNull)) return expr;
    if (!PASSES_ON.test(name)) return null;
    // REPLACE(x, 'a', NULL) removes the piece in Oracle.
    if (dialect.engine.emptyIsNull) return null;
    if (expr.args.some(isNull)) return expr;
    for (const arg of expr.args) {
      const found = blank(arg, context);
      if (found) return found;
    }
  }
  return null;
}
