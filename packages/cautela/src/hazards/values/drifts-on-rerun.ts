import { assignedIn, filterParts, usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/truth.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/** Columns that are counted up on purpose. */
const COUNTERS =
  /(?:^|_)(?:version|revision|rev|counter|count|cnt|seq|sequence|next|last|retries|attempts|hits|visits)(?:_|$)/i;

/**
 * A change that applies twice when it is run twice.
 *
 * @example
 * UPDATE mooring SET fee = fee * 1.05 WHERE status = 'planned';   -- run twice: 10.25 per cent
 */
export const driftsOnRerun: Hazard = {
  id: "drifts-on-rerun",
  family: "values",
  statements: ["update"],
  weight: "ask",
  title: "A change that applies again at every run",
  explanation:
    "The new value is made from the old one, so a second run changes the rows once more, and nothing in the statement tells a row that has " +
    "been changed from one that has not. It is a note when a filter keeps changed rows out, and for columns that are counters.",
  remedy: "Set the value outright, or let the filter see the change: a marker column, or the old value.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee numeric(10,2) NOT NULL, raised_on date);",
    dangerous: "UPDATE mooring SET fee = fee * 1.05 WHERE status = 'planned';",
    sound: "UPDATE mooring SET fee = 12.60 WHERE status = 'planned' AND fee = 12.00;",
  },
  check(context) {
    const { tree, names, changes, statement } = context;
    if (tree.kind !== "update") return [];
    const [judged] = changes;
    if (!judged || judged.softener || judged.result.filter === "dead") return [];
    const list = assignedIn(tree, names);
    const drafts: Draft[] = [];
    for (const { column, value, assignment } of list) {
      const relative = assignment.op !== "=" || isRelative(value, column.name, context);
      if (!relative) continue;
      const filter = filterParts(judged.change.conditions);
      const assigned = new Set(list.map((one) => one.column.name));
      // A filter on the column itself, or on one that the statement also sets, keeps changed rows out.
      const guard = filter.find((part) => columnsOf(part, context).some((name) => assigned.has(name)));
      const counter = COUNTERS.test(column.name);
      const shown = `${column.name} ${assignment.op} ${context.show(value)}`;
      const repeated = statement.repeat > 1;
      drafts.push({
        weight: repeated ? "stop" : guard || counter ? "note" : "ask",
        message: repeated
          ? `\`${shown}\` is run ${statement.repeat} times by the separator after it, each time on the result of the one before.`
          : `Run twice, this applies \`${shown}\` twice to \`${judged.target}\`.`,
        because: [
          `the new \`${column.name}\` is made from the old one`,
          guard
            ? `\`${context.show(guard)}\` keeps rows out that have been changed`
            : "nothing in the filter tells a changed row from an unchanged one",
        ],
        remedy: guard
          ? ""
          : `Let the filter see the change: set a marker, or add the old value of \`${column.name}\` to WHERE.`,
      });
    }
    return drafts;
  },
};

const DEEPEST = 300;

/** Whether a value goes on from the column's own: arithmetic or concatenation with something. */
export function isRelative(value: Expr, column: string, context: HazardContext, depth = 0): boolean {
  // What a longer chain of operators does with the column is not followed.
  if (depth > DEEPEST) return false;
  if (value.kind === "cast") return isRelative(value.operand, column, context, depth + 1);
  if (value.kind === "call") {
    const name = value.name.parts[value.name.parts.length - 1].text.toLowerCase();
    if (
      /^(?:round|ceil|ceiling|floor|trunc|truncate|coalesce|ifnull|nvl|isnull|greatest|least|abs|cast|nz)$/.test(name)
    )
      return value.args.some((arg) => arg.kind !== "column" && isRelative(arg, column, context, depth + 1));
    return (
      /^(?:concat|date_add|date_sub|dateadd|adddate|subdate|add_months|array_append|json_array_append)$/.test(name) &&
      value.args.some((arg) => usedColumn(arg, context.names)?.name === column)
    );
  }
  if (value.kind === "case")
    return [...value.whens.map((one) => one.result), ...(value.otherwise ? [value.otherwise] : [])].some((one) =>
      isRelative(one, column, context, depth + 1),
    );
  if (value.kind !== "binary" || !/^(?:[-+*/%&]|\|\|)$/.test(value.op)) return false;
  // With a NULL nothing is left of the old value, or (Oracle) all of it.
  if ([value.left, value.right].some((side) => constant(side)?.type === "null")) return false;
  return [value.left, value.right].some(
    (side) =>
      usedColumn(side, context.names)?.name === column ||
      isRelative(side, column, context, depth + 1) ||
      (side.kind === "call" && side.args.some((arg) => usedColumn(arg, context.names)?.name === column)),
  );
}

function columnsOf(expr: Expr, { names }: HazardContext): string[] {
  const list: string[] = [];
  walk(expr, (node) => {
    if (node.kind === "query") return false;
    if (node.kind === "column") list.push(usedColumn(node, names)?.name ?? "");
    return undefined;
  });
  return list;
}
