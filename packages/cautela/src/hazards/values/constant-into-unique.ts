import { insertReach } from "../../analysis/changes/insert-reach.ts";
import { type AssignedColumn, assignedIn, pinsOf, usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import type { Key } from "../../catalog/model.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext, JudgedChange } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * One value for many rows of a unique column.
 *
 * @example
 * UPDATE owner SET mail = 'office@quay.example' WHERE left_on IS NOT NULL;   -- mail is unique
 */
export const constantIntoUnique: Hazard = {
  id: "constant-into-unique",
  family: "values",
  statements: ["update", "insert"],
  weight: "stop",
  depends: ["names"],
  title: "The same value for a unique column of many rows",
  explanation:
    "A unique key allows a value once, and the statement writes the same one into every row that it reaches: the second row makes it fail, or, " +
    "where errors are ignored, all but one row stay as they were.",
  remedy: "Make the values different, or filter by the key of the one row that is meant.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, mail varchar(80) UNIQUE, left_on date);",
    dangerous: "UPDATE owner SET mail = 'office@quay.example' WHERE left_on IS NOT NULL;",
    sound: "UPDATE owner SET mail = NULL WHERE left_on IS NOT NULL;",
  },
  check(context) {
    const { tree, names, changes, show, dialect } = context;
    if (tree.kind === "insert") return [...twiceInValues(context), ...oneForAll(context)];
    if (tree.kind !== "update") return [];
    const [judged] = changes;
    const table = judged?.change.table;
    if (!table || judged.result.reach.bound === "one" || judged.result.reach.bound === "none") return [];
    const assigned = assignedIn(tree, names);
    const drafts: Draft[] = [];
    for (const key of [table.primaryKey, ...table.uniqueKeys]) {
      if (!key || key.partial || key.columns.length === 0) continue;
      if (key.columns.length > 1) {
        const draft = partOfKey(key, judged, assigned, context);
        if (draft) drafts.push(draft);
        continue;
      }
      const hit = assigned.find(
        (one) =>
          one.column.name === key.columns[0].toLowerCase() &&
          (!one.column.relation || one.column.relation.table === table),
      );
      const value = hit ? constant(hit.value) : null;
      if (hit && isShift(hit) && tree.orderBy.length === 0 && dialect.engine.checksKeysByRow) {
        drafts.push({
          weight: "ask",
          message: `\`${key.columns[0]}\` of \`${judged.target}\` is unique, and its values are moved one by one: a row may run into one that is not moved yet.`,
          because: [`${dialect.title} looks at the key row by row, and nothing says in which order`],
          remedy: "Move them out of the way first (by a large number), and then to their places.",
        });
        continue;
      }
      if (!hit || !value || value.type === "null") {
        // One NULL only is allowed (tsql).
        if (!hit || value?.type !== "null" || !dialect.engine.oneNullInUnique) continue;
      }
      drafts.push({
        message: `\`${key.columns[0]}\` of \`${judged.target}\` is unique, and every row that is reached gets ${show(hit.value)}: the second one makes this fail.`,
        because: [
          key === table.primaryKey ? "it is the primary key" : "a unique key keeps its values different",
          "the filter can meet more than one row",
        ],
        remedy: "Filter by the key of the one row that is meant, or make the values different.",
      });
    }
    return drafts;
  },
};

/** `n = n + 1`: every row takes the value of its neighbour. */
function isShift({ column, value, assignment }: AssignedColumn): boolean {
  if (assignment.op === "+=" || assignment.op === "-=") return constant(value) !== null;
  if (value.kind !== "binary" || (value.op !== "+" && value.op !== "-")) return false;
  const own = (expr: Expr): boolean => usedColumn(expr, null)?.name === column.name;
  return (
    (own(value.left) && constant(value.right) !== null) ||
    (value.op === "+" && own(value.right) && constant(value.left) !== null)
  );
}

/** One value for a part of a key, while the filter leaves the rest of it open. */
function partOfKey(
  key: Key,
  { change, target }: JudgedChange,
  assigned: readonly AssignedColumn[],
  { show }: HazardContext,
): Draft | null {
  const given = key.columns.map((name) => assigned.find((one) => one.column.name === name.toLowerCase()));
  const hit = given.find((one) => one !== undefined);
  const value = hit ? constant(hit.value) : null;
  if (!hit || !value || value.type === "null" || given.some((one) => one && !constant(one.value))) return null;
  // Rows that have the old value of this part already are kept apart by the others.
  const pinned = pinsOf(change.conditions, null);
  const settled = pinned.some(({ column, values }) => column.name === hit.column.name && values.length === 1);
  const rest = key.columns.filter((_, i) => given[i] === undefined);
  if (settled) return null;
  return {
    weight: "ask",
    message: `\`${key.columns.join(", ")}\` of \`${target}\` are unique together: rows with the same ${rest.map((name) => `\`${name}\``).join(", ")} collide once \`${show(hit.target)}\` is ${show(hit.value)} in all of them.`,
    because: ["the filter does not pin the old value, so rows of several may be met"],
    remedy: "Look first for rows that would have the same key afterwards.",
  };
}

/** INSERT … SELECT of several rows that all get one value for a unique column. */
function oneForAll({ inserted, tree, show, catalog, dialect }: HazardContext): Draft[] {
  const body = tree.kind === "insert" ? tree.source?.body : undefined;
  if (tree.kind !== "insert" || body?.kind !== "select" || body.from.length === 0 || !inserted?.table) return [];
  if (tree.ignore || tree.replace || tree.conflicts.length > 0) return [];
  // With a filter, it is the one row that is looked up by a name: SELECT 5, quay_id FROM quay WHERE name = 'North'.
  if (insertReach(tree, catalog, dialect)?.bound !== "every") return [];
  if (body.items.some(({ expr }) => expr.kind === "star")) return [];
  const { table, columns } = inserted;
  for (const key of [table.primaryKey, ...table.uniqueKeys]) {
    if (!key || key.partial || key.columns.length === 0) continue;
    const given = key.columns.map((name) => body.items[columns.findIndex((column) => column?.name === name)]?.expr);
    if (!given.every((expr) => expr !== undefined && (constant(expr)?.type ?? "null") !== "null")) continue;
    return [
      {
        weight: "ask",
        message: `${listed(key.columns)} of \`${table.name}\` ${key.columns.length === 1 ? "is" : "are"} unique, and every row of the SELECT gets ${given.map((expr) => (expr ? show(expr) : "")).join(", ")}: the second one makes this fail.`,
        because: [
          key === table.primaryKey ? "it is the primary key" : "a unique key keeps its values different",
          "the SELECT can give more than one row",
        ],
        remedy: "Make the values different, or let the SELECT give the one row that is meant.",
      },
    ];
  }
  return [];
}

/** Two rows of one VALUES with the same key. */
function twiceInValues({ inserted, tree, show }: HazardContext): Draft[] {
  if (tree.kind !== "insert" || !inserted?.table || inserted.rows.length < 2 || tree.ignore || tree.replace) return [];
  if (tree.conflicts.length > 0) return [];
  const { table, columns, rows } = inserted;
  for (const key of [table.primaryKey, ...table.uniqueKeys]) {
    if (!key || key.partial || key.columns.length === 0) continue;
    const places = key.columns.map((name) => columns.findIndex((column) => column?.name === name));
    if (places.some((at) => at < 0)) continue;
    const seen = new Set<string>();
    for (const row of rows) {
      const values = places.map((at) => (row[at] ? constant(row[at]) : null));
      if (values.some((value) => !value || value.type === "null")) continue;
      const text = values.map((value) => JSON.stringify(value)).join();
      if (seen.has(text))
        return [
          {
            refused: true,
            message: `Two rows of this INSERT have the same ${key.columns.map((name) => `\`${name}\``).join(", ")} (${places.map((at) => show(row[at])).join(", ")}), so the engine refuses it.`,
            because: [key === table.primaryKey ? "it is the primary key" : "a unique key keeps its values different"],
            remedy: "Remove one of the two, or give it the key that is meant.",
          },
        ];
      seen.add(text);
    }
  }
  return [];
}
