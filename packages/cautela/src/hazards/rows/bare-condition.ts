import { constant } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { namesKeyOf } from "../../catalog/columns.ts";
import { type ValueKind, valueKind } from "../../catalog/types.ts";
import type { Expr, Name } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A value that stands where a condition is meant.
 *
 * @example
 * DELETE FROM pilotage WHERE pilot_id = 4 AND 5;   -- the engine refuses this, or takes 5 for true
 */
export const bareCondition: Hazard = {
  id: "bare-condition",
  family: "rows",
  weight: "ask",
  needs: Trait.change,
  subsumes: ["dead-filter", "no-way-back"],
  title: "A value without a comparison",
  explanation:
    "AND and OR join whole conditions: in `pilot_id = 4 OR 5` the 5 is compared with nothing. PostgreSQL, SQL Server and Oracle refuse it. MySQL, SQLite and " +
    "Jet take a number other than 0 for true and a text for false, so the filter asks for less, or for more, than it seems to.",
  remedy: "Repeat the column for every value, or write IN (…).",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE pilotage (pilotage_id integer PRIMARY KEY, pilot_id integer NOT NULL);",
    dangerous: "DELETE FROM pilotage WHERE pilot_id = 4 AND 5;",
    sound: "DELETE FROM pilotage WHERE pilot_id IN (4, 5);",
  },
  check({ changes, names, dialect, show }) {
    const lax = dialect.engine.booleansAreValues;
    const drafts: Draft[] = [];
    const refusal = (expr: Expr, why: string): Draft => ({
      weight: "stop",
      refused: true,
      message: `\`${show(expr)}\` is a value and no condition: the engine refuses this.`,
      because: [why],
      remedy: WHOLE,
    });
    const look = (expr: Expr, beside: Expr | null, op: "and" | "or" | null): void => {
      if (expr.kind === "logic") {
        if (expr.op === "xor") return;
        for (const [i, item] of expr.items.entries()) look(item, expr.items[i - 1] ?? expr.items[i + 1], expr.op);
        return;
      }
      if (expr.kind === "unary" && expr.op === "not") {
        look(expr.operand, null, null);
        return;
      }
      const column = expr.kind === "column" ? names?.bindings.get(expr)?.offered?.column : null;
      if (column && !lax && NO_CONDITION.has(valueKind(column, dialect))) {
        drafts.push(refusal(expr, `\`${column.name}\` is ${column.type}, and a filter must be true or false`));
        return;
      }
      if (column && lax && valueKind(column, dialect) === "text") {
        drafts.push({
          message: `\`${show(expr)}\` is a text and stands where a condition is meant: only a text that begins with a number other than 0 counts as true.`,
          because: [`\`${column.name}\` is ${column.type}, and it is compared with nothing`],
          remedy: `Compare it: ${show(expr)} = '…', or ${show(expr)} IS NOT NULL.`,
        });
        return;
      }
      // `parent_id` alone asks whether there is one; the table's own key is always there.
      const table = expr.kind === "column" ? names?.bindings.get(expr)?.relation?.table : null;
      const own = column
        ? table?.primaryKey?.columns.includes(column.name)
        : changes.some(({ change }) => isKeyByName(expr, change.name));
      if (own && lax && op !== "or") {
        drafts.push({
          weight: op === null ? "stop" : "ask",
          message: `\`${show(expr)}\` is compared with nothing: every row in which it is not 0 meets that.`,
          because: [column ? `it is the key of \`${table?.name}\`` : "its name is that of the key"],
          remedy: `Compare it with a value: ${show(expr)} = ….`,
        });
        return;
      }
      const value = constant(expr);
      if (value?.type !== "number" && value?.type !== "string") return;
      // 't' and 'yes' are conditions; 0 and 1 stand for false and true where those are values.
      if (
        value.type === "string" &&
        (op === null || (!lax && dialect.engine.strictBooleans && BOOLEAN.test(value.value)))
      )
        return;
      if (lax && (op === null || (value.type === "number" && (value.value === 0 || value.value === 1)))) return;
      // That it is always true is told as such.
      if (lax && op === "or" && value.type === "number") return;
      const compared = beside ? comparedColumn(beside) : null;
      const stands = beside ? `it stands beside \`${show(beside)}\`` : "a filter must be true or false";
      const draft = lax
        ? {
            message: `\`${show(expr)}\` is compared with nothing and counts as ${value.type === "number" ? "true" : "false"}.`,
            because: [
              stands,
              ...(value.type === "string" && dialect.engine.ignoreBendsValues
                ? ["a server in strict mode refuses the text"]
                : []),
            ],
            remedy: WHOLE,
          }
        : refusal(expr, stands);
      if (compared) draft.remedy = `Compare it with a column, or list the values: ${show(compared)} IN (…).`;
      drafts.push(draft);
    };
    for (const { change } of changes)
      for (const { expr } of change.conditions) if (drafts.length < 5) look(expr, null, null);
    return drafts;
  },
};

/** Whether a column has the name of the key of a table that is not known: `id`, `mooring_id` of `mooring`. */
function isKeyByName(expr: Expr, { parts }: Name): boolean {
  const column = expr.kind === "column" ? expr.path[expr.path.length - 1].text.toLowerCase() : "";
  return namesKeyOf(column, parts[parts.length - 1].text);
}

const WHOLE = "Write the comparison that is meant.";

/** What no strict engine takes for a condition. */
const NO_CONDITION: ReadonlySet<ValueKind> = new Set(["integer", "decimal", "float", "text", "date", "timestamp"]);

const BOOLEAN = /^\s*(?:t|f|true|false|y|n|yes|no|on|off|0|1)\s*$/i;

function comparedColumn(expr: Expr): Expr | null {
  return expr.kind === "binary" && expr.op === "=" && expr.left.kind === "column" ? expr.left : null;
}
