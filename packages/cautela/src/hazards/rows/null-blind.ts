import { conjuncts } from "../../analysis/changes/reach.ts";
import { assignedIn, filterParts, type UsedColumn, usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant, plainColumn } from "../../analysis/conditions/constants.ts";
import { expressionKey } from "../../analysis/conditions/filter-facts.ts";
import { nullInQuery } from "../../analysis/conditions/null-in-query.ts";
import type { Resolution } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { partedName } from "../../catalog/columns.ts";
import type { Column } from "../../catalog/model.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { holdsAnEvent } from "../ended-rows.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * A condition that leaves out rows with NULL without a word, or NOT IN a list that may hold one.
 *
 * @example
 * DELETE FROM mooring WHERE vessel_id NOT IN (SELECT vessel_id FROM permit);   -- one NULL there, and nothing goes
 */
export const nullBlind: Hazard = {
  id: "null-blind",
  family: "rows",
  weight: "note",
  depends: ["names"],
  needs: Trait.change | Trait.unequal,
  title: "Rows with NULL are left out",
  explanation:
    "`<>`, NOT IN and NOT LIKE are not true for a NULL, so rows without a value are passed over, although they are unequal as " +
    "people see it. With NOT IN (SELECT …) it is worse: a single NULL in the subquery makes the condition never true.",
  remedy:
    "Say what is to happen with NULLs: OR column IS NULL, or column IS NOT NULL; write NOT EXISTS instead of NOT IN.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, class varchar(20), note text);\nCREATE TABLE permit (permit_id integer PRIMARY KEY, vessel_id integer);",
    dangerous: "UPDATE vessel SET note = 'no permit' WHERE vessel_id NOT IN (SELECT p.vessel_id FROM permit p);",
    sound:
      "UPDATE vessel SET note = 'no permit' WHERE NOT EXISTS (SELECT 1 FROM permit p WHERE p.vessel_id = vessel.vessel_id);",
  },
  check(context) {
    const drafts: Draft[] = [];
    for (const { change, result } of context.changes) {
      if (result.filter !== "filters") continue;
      const parts = filterParts(change.conditions);
      let others: ReadonlySet<string> | null = null;
      const settled = (column: string): boolean => {
        others ??= new Set(parts.flatMap((one) => usedColumnIn(one, context)?.name ?? []));
        return others.has(column);
      };
      // Another condition on the column says that its rows were thought of.
      const named = (column: string): boolean =>
        new Set(
          parts
            .filter((one) => columnOf(one, context)?.name === column)
            .map(({ start, end }) => context.slice(start, end)),
        ).size > 1;
      for (const part of parts) {
        if (rewrites(part, context) || blanks(part, context)) continue;
        const draft = notIn(part, context) ?? unequal(part, settled, context) ?? ranged(part, named, context);
        if (draft) drafts.push(draft);
      }
    }
    // INSERT … SELECT … WHERE key NOT IN (SELECT …): with one NULL there nothing is inserted.
    const { tree } = context;
    const source = tree.kind === "insert" ? tree.source?.body : null;
    if (source?.kind === "select" && source.where)
      for (const part of conjuncts(source.where)) {
        const draft = notIn(part, context);
        if (draft) drafts.push(draft);
      }
    return drafts;
  },
};

/** Whether the column that a condition asks of is set to NULL: where it is NULL there is nothing to be done. */
function blanks(part: Expr, context: HazardContext): boolean {
  const { tree, names } = context;
  const asked = tree.kind === "update" ? columnOf(part, context) : null;
  if (!asked) return false;
  return assignedIn(tree, names).every(
    ({ column, value }) => column.name === asked.name && constant(value)?.type === "null",
  );
}

/**
 * Whether a condition only keeps an UPDATE from writing what is there already: `SET code = upper(code) WHERE code <> upper(code)`.
 * Of NULL the expression makes NULL as well, so that nothing is left out.
 */
function rewrites(part: Expr, { tree, names, slice }: HazardContext): boolean {
  if (tree.kind !== "update" || part.kind !== "binary" || (part.op !== "<>" && part.op !== "!=")) return false;
  const assigned = assignedIn(tree, names);
  return [
    [part.left, part.right],
    [part.right, part.left],
  ].some(([column, value]) => {
    const own = usedColumn(column, names);
    if (!own || !isStrictIn(value, own.name, names)) return false;
    const key = expressionKey(value, slice);
    return assigned.some((one) => one.column.name === own.name && expressionKey(one.value, slice) === key);
  });
}

/** Whether an expression is NULL where the column is: the column itself, and functions of it that look at nothing else. */
function isStrictIn(expr: Expr, column: string, names: Resolution | null): boolean {
  const within = (one: Expr): boolean =>
    constant(one) === null ? usedColumn(one, names)?.name === column || isStrictIn(one, column, names) : false;
  switch (expr.kind) {
    case "cast":
      return within(expr.operand);
    case "binary":
      return /^(?:[-+*/%]|\|\|)$/.test(expr.op) && (within(expr.left) || within(expr.right));
    case "call":
      return STRICT.test(expr.name.parts[expr.name.parts.length - 1].text) && expr.args.some(within);
    default:
      return false;
  }
}

const STRICT =
  /^(?:upper|lower|ucase|lcase|initcap|proper|l?r?trim|btrim|replace|regexp_replace|translate|substr|substring|mid|left|right|round|trunc|truncate|abs|floor|ceil|ceiling|lpad|rpad|reverse|date|date_trunc)$/i;

/** Whether a column is known to take NULL: of a table that was made from one without a catalog nothing is known but the name. */
function mayBeNull({ required, type }: Column, { known }: HazardContext): boolean {
  return !required && (known || type !== "");
}

/** NOT IN (SELECT column …) and <> ALL (SELECT column …), where what is selected may be NULL. */
function notIn(part: Expr, context: HazardContext): Draft | null {
  const all = part.kind === "quantified" && part.quantifier === "all" && /^(?:<>|!=)$/.test(part.op);
  // Of several columns a NULL in one rules out only what is equal in the others.
  const query = all || (part.kind === "in" && part.negated && part.operand.kind !== "row") ? part.query : null;
  const { names, dialect } = context;
  const mayBe = ({ offered }: UsedColumn): boolean =>
    offered?.column != null && offered.column.nulls !== 0 && mayBeNull(offered.column, context);
  const key = (expr: Expr): string => expressionKey(expr, context.slice);
  const found = query ? nullInQuery(query, { names, dialect, mayBeNull: mayBe, key }) : null;
  if (!found) return null;
  const { used, select, value, unmatched, plain } = found;
  const { where, from, having } = select;
  const inner = used.relation?.name ?? "the subquery";
  const name = context.slice(value.start, value.end);
  const last = from[from.length - 1];
  const at = where ?? last;
  const loose = where?.kind === "logic" && where.op !== "and" && !where.parenthesised;
  const put = (offset: number, text: string) => ({ ...context.region({ start: offset, end: offset }), text });
  const edits =
    !plain || !last
      ? []
      : where
        ? [...(loose ? [put(at.start, "(")] : []), put(at.end, `${loose ? ")" : ""} AND ${name} IS NOT NULL`)]
        : [put(at.end, ` WHERE ${name} IS NOT NULL`)];
  const condition = select.groupBy.length > 0 ? (having ? "… AND" : "HAVING") : where ? "… AND" : "WHERE";
  const row = value.kind === "column" ? `with \`${used.name}\` NULL` : `for which \`${context.show(value)}\` is NULL`;
  const asked = all ? "`<> ALL`" : "NOT IN";
  return {
    ...(edits.length > 0 ? { fix: { title: "Leave the NULLs out in the subquery", edits } } : {}),
    weight: "ask",
    message: unmatched
      ? `One row of the subquery without a match in \`${inner}\`, and this ${asked} is true for no row at all.`
      : `One row ${row} in \`${inner}\`, and this ${asked} is true for no row at all.`,
    because: [
      unmatched
        ? `the outer join makes \`${inner}.${used.name}\` NULL where \`${inner}\` has no match`
        : `\`${inner}.${used.name}\` may be NULL`,
      all ? "x <> ALL (1, NULL) is never true, whatever x is" : "x NOT IN (1, NULL) is never true, whatever x is",
    ],
    remedy: `Leave the NULLs out in the subquery: ${condition} ${name} IS NOT NULL`,
  };
}

/** `<>`, NOT IN (list) and NOT LIKE on a column that may be NULL, and no word about NULL anywhere. */
function unequal(part: Expr, settled: (column: string) => boolean, context: HazardContext): Draft | null {
  const operand =
    part.kind === "binary" && (part.op === "<>" || part.op === "!=")
      ? plainColumn(part.left) || isJson(part.left)
        ? part.left
        : part.right
      : part.kind === "in" && part.negated && part.items
        ? part.operand
        : part.kind === "like" && part.negated
          ? part.operand
          : null;
  if (!operand) return null;
  if (isJson(operand))
    return {
      message: `Rows that lack what \`${context.show(operand)}\` asks for are left out.`,
      because: [`\`${context.show(part)}\` is not true for a NULL, and a key that is missing gives NULL`],
      remedy: `If they belong to it: (${context.show(part)} OR ${context.show(operand)} IS NULL)`,
    };
  const column = usedColumn(operand, context.names);
  const offered = column?.offered?.column;
  if (!column || !offered || !mayBeNull(offered, context)) return null;
  if (offered.nulls === 0 || settled(column.name)) return null;
  return {
    message: `Rows in which \`${column.name}\` is NULL are left out.`,
    because: [`\`${context.show(part)}\` is not true for a NULL, and \`${column.name}\` may be NULL`],
    remedy: `If they belong to it: (${context.show(part)} OR ${context.show(operand)} IS NULL)`,
  };
}

/** A part of a JSON value: data->>'kind', JSON_EXTRACT(data, '$.kind'). */
function isJson(expr: Expr): boolean {
  if (expr.kind === "binary") return /^(?:->>?|#>>?)$/.test(expr.op);
  return (
    expr.kind === "call" &&
    /^(?:json_extract|json_value|json_unquote|jsonb?_extract_path(?:_text)?)$/i.test(
      expr.name.parts[expr.name.parts.length - 1].text,
    )
  );
}

/** A range over a column that may be NULL, and no word about NULL anywhere. */
function ranged(part: Expr, settled: (column: string) => boolean, context: HazardContext): Draft | null {
  const bound = part.kind === "binary" && /^[<>]=?$/.test(part.op);
  const operand = bound
    ? plainColumn(part.left)
      ? part.left
      : part.right
    : part.kind === "between"
      ? part.operand
      : null;
  const column = operand ? usedColumn(operand, context.names) : null;
  const offered = column?.offered?.column;
  if (!column || !offered || offered.required || offered.nulls === 0 || settled(column.name)) return null;
  // What has not happened has no time, and is left out of what happened before or after one.
  if (holdsAnEvent(partedName(offered))) return null;
  return {
    cause: `range ${column.relation?.name ?? ""}.${column.name}`,
    message: `Rows in which \`${column.name}\` is NULL are left out.`,
    because: [`\`${context.show(part)}\` is not true for a NULL, and \`${column.name}\` may be NULL`],
    remedy: "",
  };
}

/** The column that a condition is about. */
function columnOf(expr: Expr, { names }: HazardContext): ReturnType<typeof usedColumn> {
  switch (expr.kind) {
    case "binary":
      return usedColumn(expr.left, names) ?? usedColumn(expr.right, names);
    case "is":
    case "in":
    case "like":
    case "between":
      return usedColumn(expr.operand, names);
    default:
      return null;
  }
}

function usedColumnIn(expr: Expr, context: HazardContext): ReturnType<typeof usedColumn> {
  if (expr.kind === "is") return usedColumn(expr.operand, context.names);
  // A second inequality says no more of NULL than the first.
  if (expr.kind === "binary" && expr.op !== "<>" && expr.op !== "!=")
    return usedColumn(expr.left, context.names) ?? usedColumn(expr.right, context.names);
  return null;
}
