import { multipliedBy } from "../../analysis/changes/multiplied.ts";
import { joinTreeOf } from "../../analysis/conditions/join-tree.ts";
import { linksOf, uniqueOn } from "../../analysis/conditions/links.ts";
import type { BoundRelation } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnNamed, isNumbered } from "../../catalog/columns.ts";
import { tableKey } from "../../catalog/keys.ts";
import type { Table } from "../../catalog/model.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { joinBy } from "./open-join.ts";

/**
 * Two tables joined by other columns than their declared key.
 *
 * @example
 * UPDATE mooring SET fee = 0 FROM vessel v WHERE v.vessel_id = mooring.mooring_id;   -- the key is vessel_id
 */
export const offKeyJoin: Hazard = {
  id: "off-key-join",
  family: "joins",
  statements: ["update", "delete", "insert", "merge"],
  weight: "ask",
  subsumes: ["fan-out"],
  depends: ["names"],
  needs: Trait.several,
  title: "A join beside the declared key",
  explanation:
    "A foreign key says how two tables belong together, and the statement joins them by other columns: often by two numbers that " +
    "both are called id, which match rows that have nothing to do with each other. Joins on columns that are a key on neither side are " +
    "reported as well, and joins of two keys that the engine counts up, each for itself.",
  remedy: "Join by the columns of the foreign key.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, class varchar(20));\nCREATE TABLE mooring (mooring_id integer PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel, fee numeric(10,2));",
    dangerous: "UPDATE mooring SET fee = 0 FROM vessel v WHERE v.vessel_id = mooring.mooring_id AND v.class = 'sail';",
    sound: "UPDATE mooring SET fee = 0 FROM vessel v WHERE v.vessel_id = mooring.vessel_id AND v.class = 'sail';",
  },
  check({ tree, names, changes, dialect }) {
    if (!names) return [];
    const level = joinTreeOf(tree, names, changes[0]?.change.relation?.source ?? null);
    if (!level) return [];
    const links = linksOf(level.conditions, names, level.scope);
    if (links.equal.length === 0) return [];
    const drafts: Draft[] = [];
    const multiplied = multipliedBy(tree, names, changes[0]?.change ?? null);
    const pairs = new Map<string, { a: BoundRelation; b: BoundRelation; columns: [string, string][] }>();
    for (const { left, leftColumn, right, rightColumn } of links.equal) {
      const flip = level.scope.relations.indexOf(left) > level.scope.relations.indexOf(right);
      const [a, b] = flip ? [right, left] : [left, right];
      const key = `${level.scope.relations.indexOf(a)} ${level.scope.relations.indexOf(b)}`;
      const entry = pairs.get(key) ?? { a, b, columns: [] };
      entry.columns.push(flip ? [rightColumn, leftColumn] : [leftColumn, rightColumn]);
      pairs.set(key, entry);
    }
    for (const { a, b, columns } of pairs.values()) {
      if (!a.table && !b.table) {
        const draft = byName(a, b, columns);
        if (draft) drafts.push(draft);
      }
      if (!a.table || !b.table || a.table === b.table) continue;
      const byKey =
        declared(a, b, columns) ||
        declared(
          b,
          a,
          columns.map(([x, y]) => [y, x]),
        );
      if (byKey === "yes") continue;
      const shown = columns.map(([x, y]) => `${a.name}.${x} = ${b.name}.${y}`).join(" AND ");
      if (byKey === "other") {
        // Both tables refer to the same third one: that is a join by keys as well.
        if (sharedKey(a, b, columns)) continue;
        drafts.push({
          message: `\`${a.name}\` and \`${b.name}\` are joined by \`${shown}\`, not by the key that ties them.`,
          because: ["the catalog declares another foreign key between the two tables"],
          remedy: joinBy(a, [b], { dialect }) ?? "Join by the columns of the foreign key.",
        });
        continue;
      }
      const settled = (relation: BoundRelation, side: 0 | 1): boolean | null =>
        uniqueOn(
          relation,
          new Set([
            ...columns.map((one) => one[side]),
            ...links.pinned.filter((one) => one.relation === relation).map((one) => one.column),
          ]),
        );
      if (numbers(a, b, columns, dialect)) {
        drafts.push({
          message: `\`${a.name}\` and \`${b.name}\` are joined by \`${shown}\`: the engine numbers each of the two by itself.`,
          because: ["both are keys that are counted up, and no foreign key ties one to the other"],
          remedy: joinBy(a, [b], { dialect }) ?? "Join by a column of one table that refers to the other.",
        });
        continue;
      }
      if (settled(a, 0) !== false || settled(b, 1) !== false || sharedKey(a, b, columns)) continue;
      // That rows of one are met several times is told as what it does.
      if (multiplied.some(({ relation }) => relation === a || relation === b)) continue;
      drafts.push({
        message: `\`${a.name}\` and \`${b.name}\` are joined by \`${shown}\`, which is a key of neither.`,
        because: ["several rows on each side can have the same value"],
        remedy: "Join by a key of one of the two tables.",
      });
    }
    return drafts;
  },
};

/** A column that is named after the other table, compared with that table's reference to a third one: their names alone say so. */
function byName(a: BoundRelation, b: BoundRelation, columns: readonly (readonly [string, string])[]): Draft | null {
  const [[x, y], ...more] = columns;
  const [one, other] = [a, b].map(({ source }) =>
    source?.kind === "table" ? source.name.parts[source.name.parts.length - 1].text : "",
  );
  if (more.length > 0 || one === "" || other === "" || stem(one) === stem(other)) return null;
  const strays = (to: string, from: string, column: string): boolean =>
    stem(column) === stem(to) && /id$/i.test(from) && stem(from) !== "" && stem(from) !== stem(to);
  const [astray, table] = strays(other, y, x) ? [y, other] : strays(one, x, y) ? [x, one] : [null, ""];
  if (astray === null) return null;
  return {
    message: `\`${a.name}\` and \`${b.name}\` are joined by \`${a.name}.${x} = ${b.name}.${y}\`: \`${astray === y ? x : y}\` is named after \`${table}\`, and \`${astray}\` of \`${table}\` after something else.`,
    because: ["by their names the two numbers are those of different things"],
    remedy: `Join by the key of \`${table}\`.`,
  };
}

/** What a name is about, without the ending of a key or of several: `vessel_id`, `VesselID` and `Vessels` are `vessel`. */
function stem(name: string): string {
  return name
    .toLowerCase()
    .replace(/_?(?:id|no|nr|key|code)$/, "")
    .replace(/s$/, "");
}

/** Whether a foreign key from one table to the other is what the columns follow: `yes`, another one is there, or none. */
function declared(
  from: BoundRelation,
  to: BoundRelation,
  columns: readonly (readonly [string, string])[],
): "yes" | "other" | null {
  if (!from.table || !to.table) return null;
  const key = tableKey(to.table.schema, to.table.name);
  let found: "other" | null = null;
  for (const one of from.table.foreignKeys) {
    if (one.table !== key) continue;
    const referenced = one.referenced.length > 0 ? one.referenced : (to.table.primaryKey?.columns ?? []);
    const follows = one.columns.some((column, i) => columns.some(([x, y]) => x === column && y === referenced[i]));
    if (follows) return "yes";
    found = "other";
  }
  return found;
}

/**
 * Whether two numbers are compared that are counted independently of each other: the keys of two tables, each called
 * differently. Keys that are called alike may be one and the same, as in a copy or in a table that extends another one.
 */
function numbers(
  a: BoundRelation,
  b: BoundRelation,
  columns: readonly (readonly [string, string])[],
  dialect: Dialect,
): boolean {
  const [[x, y], ...more] = columns;
  if (more.length > 0 || x.toLowerCase() === y.toLowerCase()) return false;
  const [left, right] = [columnNamed(a.table, x), columnNamed(b.table, y)];
  if (!left || !right || !a.table || !b.table || tied(a.table, x) || tied(b.table, y)) return false;
  if (isNamedAfter(x, b.table) || isNamedAfter(y, a.table)) return false;
  return isNumbered(a.table, left, dialect) && isNumbered(b.table, right, dialect);
}

/** Whether a column bears the name of a table, as the key of one that extends it does: `profile.person_id`. */
function isNamedAfter(column: string, { name }: Table): boolean {
  return stem(column) !== "" && stem(column) === stem(name);
}

/** A key that refers to another table takes its numbers from there. */
function tied({ foreignKeys }: Table, column: string): boolean {
  return foreignKeys.some(({ columns }) => columns.includes(column));
}

/** Both columns refer to the same table by foreign keys. */
function sharedKey(a: BoundRelation, b: BoundRelation, columns: readonly (readonly [string, string])[]): boolean {
  return columns.some(([x, y]) => {
    const left = a.table?.foreignKeys.find((key) => key.columns.includes(x));
    const right = b.table?.foreignKeys.find((key) => key.columns.includes(y));
    return left !== undefined && left.table === right?.table;
  });
}
