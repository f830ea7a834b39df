import { assignedIn, filterParts, usedColumn } from "../../analysis/conditions/conditions.ts";
import { calledName, standsIn } from "../../analysis/conditions/constants.ts";
import { type JoinTree, joinTreeOf } from "../../analysis/conditions/join-tree.ts";
import { isAggregate, relationsIn } from "../../analysis/conditions/links.ts";
import { findsParent } from "../../analysis/conditions/parents.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { bareName } from "../../catalog/names.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Expr, Query, Source } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { addition, capital, listed } from "../wording.ts";

/**
 * A value from another table that is NULL where nothing matches.
 *
 * @example
 * UPDATE vessel SET phone = (SELECT o.phone FROM owner o WHERE o.owner_id = vessel.owner_id);
 */
export const outerNull: Hazard = {
  id: "outer-null",
  family: "joins",
  statements: ["update"],
  weight: "ask",
  needs: Trait.query | Trait.joined,
  title: "NULL where nothing matches",
  explanation:
    "The new value comes from a subquery or a LEFT JOIN, and rows for which there is no match are not filtered out: they are set to " +
    "NULL, and the value they had is gone. It is quiet when a filter asks for the match, when the value is a count, and when COALESCE gives another value.",
  remedy: "Add WHERE EXISTS with the same condition, or COALESCE(the subquery, the old value).",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, phone varchar(20));\nCREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer REFERENCES owner, phone varchar(20), class varchar(10) NOT NULL);",
    dangerous:
      "UPDATE vessel SET phone = (SELECT o.phone FROM owner o WHERE o.owner_id = vessel.owner_id) WHERE class = 'sail';",
    sound:
      "UPDATE vessel SET phone = (SELECT o.phone FROM owner o WHERE o.owner_id = vessel.owner_id) WHERE class = 'sail' AND EXISTS (SELECT 1 FROM owner o WHERE o.owner_id = vessel.owner_id);",
  },
  check(context) {
    const { tree, names, changes } = context;
    if (tree.kind !== "update") return [];
    const drafts: Draft[] = [];
    const [judged] = changes;
    if (!judged || judged.softener || judged.result.filter === "dead" || judged.result.reach.bound === "one")
      return drafts;
    // One finding, however many columns are filled so.
    const empty: { query: Query; columns: string[] }[] = [];
    for (const { targets, value, op } of tree.assignments) {
      if (op !== "=" || value.kind !== "subquery" || !mayBeEmpty(value.query)) continue;
      if (isUnmatched(value.query, context)) empty.push({ query: value.query, columns: targets.map(context.show) });
    }
    if (empty.length > 0) drafts.push(unmatched(empty, context));
    if (names) {
      const level = joinTreeOf(tree, names, judged.change.relation?.source ?? null);
      if (level?.target) {
        const here = new Set(level.scope.relations);
        const filter = filterParts(judged.change.conditions.filter((one) => one.where !== "join"));
        if (context.dialect.engine.desktopRules) drafts.push(...addedRows(level, context));
        for (const { join, relation } of level.joins) {
          if (join.type !== "left" || relation.includes(level.target)) continue;
          // Any condition on the joined table removes the rows without a match.
          if (filter.some((part) => relation.some((one) => relationsIn(part, names, here).relations.has(one))))
            continue;
          for (const { column, value, target } of assignedIn(tree, names)) {
            const from = relation.find((one) => relationsIn(value, names, here).relations.has(one));
            if (!from || value.kind !== "column") continue;
            drafts.push({
              message: `Rows of \`${judged.target}\` without a match in \`${from.name}\` get NULL for \`${column.name}\`.`,
              because: [`\`${from.name}\` is joined with LEFT JOIN, so its columns are NULL where nothing matches`],
              remedy: `Write INNER JOIN, or ${sqlWriter(context.dialect).coalesce(context.show(value), context.show(target))}.`,
            });
          }
        }
      }
    }
    return drafts;
  },
};

/** An outer join whose empty side gets values: a row is added there for each row without a match (jet, "Create an update query"). */
function addedRows({ joins, scope }: JoinTree, { tree, names, dialect }: HazardContext): Draft[] {
  const drafts: Draft[] = [];
  for (const { join, before, relation } of joins) {
    const empty = join.type === "left" ? relation : join.type === "right" ? before : [];
    const full = join.type === "left" ? before : relation;
    const filled = assignedIn(tree, names).find(({ target }) => {
      const owner = target.kind === "column" ? names?.bindings.get(target)?.relation : null;
      return owner && scope.relations.includes(owner) && empty.includes(owner);
    });
    const owner = filled?.target.kind === "column" ? names?.bindings.get(filled.target)?.relation : null;
    if (!owner || !full[0]) continue;
    drafts.push({
      message: `This adds a row to \`${owner.name}\` for every row of \`${full[0].name}\` without a match.`,
      because: [`${dialect.title} fills the empty side of an outer join by adding a row`],
      remedy: "Write INNER JOIN to change only the rows that are there.",
    });
  }
  return drafts;
}

/** Whether a scalar subquery can give no row: an aggregate without groups always gives one. */
function mayBeEmpty(query: Query): boolean {
  const { body } = query;
  if (body.kind !== "select" || body.from.length === 0) return false;
  if (body.groupBy.length > 0) return true;
  // Without groups there is one row, whatever is found.
  return !body.items.some(({ expr }) => holdsAggregate(expr) && isNeverNull(expr));
}

/** A count is never NULL; a sum or a maximum over nothing is, unless something stands in for it. */
function isNeverNull(expr: Expr): boolean {
  if (expr.kind === "literal") return expr.type !== "null";
  if (expr.kind === "binary") return isNeverNull(expr.left) && isNeverNull(expr.right);
  if (expr.kind === "cast") return isNeverNull(expr.operand);
  if (expr.kind !== "call") return false;
  return /^count/i.test(calledName(expr)) ? isAggregate(expr) : standsIn(expr) && expr.args.some(isNeverNull);
}

function holdsAggregate(expr: Expr): boolean {
  let holds = false;
  walk(expr, (node) => {
    if (node.kind === "query") return false;
    if (node.kind === "call" && isAggregate(node)) holds = true;
    return !holds;
  });
  return holds;
}

/** Whether a row may find no match in a scalar subquery, and no filter of the statement asks for one. */
function isUnmatched(query: Query, { changes, names, dialect }: HazardContext): boolean {
  const { body } = query;
  if (body.kind !== "select" || body.from.length === 0) return false;
  const [judged] = changes;
  const own = tablesOf(body.from);
  if (judged.change.conditions.some(({ expr }) => asksFor(expr, own))) return false;
  if (findsParent(query, judged.change, names, dialect)) return false;
  // Without a tie to the row it is one value for all, and either there or not.
  return judged.change.names.refersOutside(query);
}

function unmatched(empty: readonly { query: Query; columns: string[] }[], context: HazardContext): Draft {
  const [judged] = context.changes;
  const [{ query }] = empty;
  const { body } = query;
  const columns = empty.flatMap((one) => one.columns);
  const bare = columns.map((name) => bareName(name).toLowerCase());
  const required = judged.change.table?.columns.find((one) => one.required && bare.includes(one.name.toLowerCase()));
  const select = body.kind === "select" ? body : null;
  const cut = ({ start, end }: { start: number; end: number }): string => context.slice(start, end);
  const from = select ? context.show(select.from[0]) : "";
  const asks = select
    ? `EXISTS (SELECT 1 FROM ${select.from.map(cut).join(", ")}${select.where ? ` WHERE ${cut(select.where)}` : ""})`
    : "";
  // What is worked out anew has no match where there is nothing to add up; a column that is empty loses nothing.
  const derived = empty.every(
    (one) => one.query.body.kind === "select" && one.query.body.items.some(({ expr }) => isAggregate(expr)),
  );
  const empties = columns.every((name) => isAskedEmpty(bareName(name), judged));
  return {
    // Whether there is such a row only the data could tell.
    weight: !required && (derived || empties) ? "note" : "ask",
    message: `Rows of \`${judged.target}\` for which \`${from}\` holds no match get NULL for ${listed(columns)}.`,
    because: [
      `\`${context.show(query)}\` gives NULL when it finds nothing`,
      "no filter of the statement asks for the match",
      ...(required ? [`\`${required.name}\` may not be NULL, so the statement fails at the first such row`] : []),
    ],
    remedy: derived
      ? "Turn the NULL into 0 (COALESCE, or what the dialect has for it) if nothing is to count as zero."
      : empty.length > 1 || asks === "" || asks.length > 300
        ? "Ask for the match in the filter of the statement, with EXISTS, or keep the old value where there is none."
        : `${capital(addition(context.tree, asks))} to leave the others as they are.`,
  };
}

/** Whether the filter asks for rows in which the column is empty. */
function isAskedEmpty(column: string, { change }: HazardContext["changes"][number]): boolean {
  return filterParts(change.conditions).some(
    (part) =>
      part.kind === "is" &&
      part.test === "null" &&
      !part.negated &&
      usedColumn(part.operand, null)?.name === column.toLowerCase(),
  );
}

function tablesOf(sources: readonly Source[]): Set<string> {
  const tables = new Set<string>();
  for (const source of sources) {
    if (source.kind === "table") tables.add(source.name.parts[source.name.parts.length - 1].text.toLowerCase());
    else if (source.kind === "joined")
      for (const name of tablesOf([source.first, ...source.joins.map((join) => join.source)])) tables.add(name);
  }
  return tables;
}

/** Whether a filter asks for rows in one of the tables: EXISTS, IN or a join. */
function asksFor(expr: Expr, tables: ReadonlySet<string>): boolean {
  let asks = false;
  walk(expr, (node) => {
    if (node.kind === "table" && tables.has(node.name.parts[node.name.parts.length - 1].text.toLowerCase()))
      asks = true;
    return undefined;
  });
  return asks;
}
