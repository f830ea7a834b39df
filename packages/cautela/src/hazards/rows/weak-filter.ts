import type { Change } from "../../analysis/changes/change.ts";
import { conjuncts } from "../../analysis/changes/reach.ts";
import {
  type ConstantValue,
  filterParts,
  pinnedConstants,
  shownValue,
  usedColumn,
} from "../../analysis/conditions/conditions.ts";
import { uniqueOn } from "../../analysis/conditions/links.ts";
import type { Resolution } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnLike, partedName } from "../../catalog/columns.ts";
import { valueKind } from "../../catalog/types.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Expr, Span } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { rowCount } from "../wording.ts";

/** Names of columns that people take for a key although nothing keeps them unique. */
const LOOKS_LIKE_ONE =
  /(?:^|_|first|last|sur|nick|user|full|given|family)(?:name|mail|email|e_mail|login|username|code|phone|mobile|title|sign|licence|license|number|no|nr|vin|iban|isbn|sku|plate|label)$/i;

function looksLikeOne(column: Parameters<typeof partedName>[0]): boolean {
  return LOOKS_LIKE_ONE.test(partedName(column));
}

/**
 * A filter on a name where one row is meant and nothing keeps the name unique.
 *
 * @example
 * UPDATE owner SET mail = 'ada@quay.example' WHERE name = 'Ada Storm';   -- ask: two owners may be called that
 */
export const weakFilter: Hazard = {
  id: "weak-filter",
  family: "rows",
  weight: "ask",
  depends: ["names"],
  needs: Trait.change,
  title: "A filter that looks as if it meant one row",
  explanation:
    "The filter compares a name, a code or an address with one value, as one does to find one row, but no key of the table " +
    "keeps that column unique: every row with the same value is hit. Filters on categories, dates and foreign keys are meant " +
    "to hit many rows and are not reported.",
  remedy: "Filter by the primary key; look the key up first with a SELECT on the name.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(80) UNIQUE, phone varchar(20));",
    dangerous: "UPDATE owner SET phone = '0441' WHERE name = 'Ada Storm';",
    sound: "UPDATE owner SET phone = '0441' WHERE mail = 'ada@quay.example';",
  },
  check({ changes, names, dialect, tree, slice, show }) {
    const drafts: Draft[] = [];
    for (const { change, result, softener, target } of changes) {
      const { table } = change;
      if (!table && !softener) drafts.push(...byPerson(change, target, names));
      if (!table || softener || result.reach.bound !== "some" || change.tied) continue;
      if (!table.primaryKey && table.uniqueKeys.length === 0) continue;
      // One condition alone, or several that are all of this kind.
      const parts = filterParts(change.conditions);
      const through = parts.length === 1 && names ? keyByName(parts[0], names, dialect, show) : null;
      if (through) {
        drafts.push({ ...through, message: `${through.message}, and all their rows of \`${target}\` are hit.` });
        continue;
      }
      const pinned = pinnedConstants(parts, names);
      if (pinned.length !== parts.length || pinned.length === 0) continue;
      const columns = pinned.map(({ column }) => columnLike(table, column.name));
      if (!pinned.every(({ column, values }, i) => isSomebodys(values) && looksLikeOne(columns[i] ?? column))) continue;
      if (columns.some((column) => !column || valueKind(column, dialect) !== "text")) continue;
      if (table.foreignKeys.some((key) => key.columns.some((one) => columns.some((column) => column?.name === one))))
        continue;
      const distinct = columns[0]?.distinct ?? null;
      // Statistics say that nearly every row has a value of its own.
      if (distinct !== null && table.rows !== null && table.rows > 20 && distinct >= table.rows * 0.98) continue;
      const words = pinned.map(({ column, values }) => `\`${column.name}\` = ${shownValue(values[0])}`).join(" and ");
      const key = table.primaryKey?.columns.join(", ") ?? table.uniqueKeys[0].columns.join(", ");
      const because = [`no key of \`${target}\` keeps \`${pinned[0].column.name}\` unique`];
      if (distinct !== null && table.rows !== null)
        because.push(`its statistics count about ${distinct} different values in ${rowCount(table.rows)}`);
      const source = change.relation?.source;
      const where = "where" in tree ? tree.where : null;
      const only = change.scope.relations.length === 1 && source?.kind === "table" && where;
      const look = only
        ? `SELECT ${sqlWriter(dialect).columns("", table, table.primaryKey?.columns ?? table.uniqueKeys[0].columns)} FROM ${slice(source.start, source.end)} WHERE ${slice(where.start, where.end)}`
        : null;
      drafts.push({
        message: `Every row of \`${target}\` with ${words} is hit, and nothing says that it is only one.`,
        because,
        remedy: look
          ? `Look first, and then filter by ${key}: ${look}`
          : `Look the rows up first, and then filter by ${key}.`,
      });
    }
    return drafts;
  },
};

/** What people are called: no table keeps that unique, whatever else is known of it. */
const PERSON = /^(?:last|sur|family|full|first|given)_?name$/i;

/** A filter on the names of a person and nothing else, where the table is not known. */
function byPerson({ conditions, relation, tied }: Change, target: string, names: Resolution | null): Draft[] {
  const parts = filterParts(conditions);
  const pinned = pinnedConstants(parts, names);
  if (tied || !relation || pinned.length !== parts.length || pinned.length === 0) return [];
  if (!pinned.every(({ column, values }) => isSomebodys(values) && PERSON.test(column.name))) return [];
  const words = pinned.map(({ column, values }) => `\`${column.name}\` = ${shownValue(values[0])}`).join(" and ");
  return [
    {
      message: `Every row of \`${target}\` with ${words} is hit, and nothing says that it is only one.`,
      because: ["several people may have one name"],
      remedy: "Look the rows up first, and then filter by the key.",
    },
  ];
}

/** Whether a column is compared with one value that is of one row; what stands for no value is cleared in all rows that have it. */
function isSomebodys(values: readonly ConstantValue[]): boolean {
  const [only] = values;
  return values.length === 1 && !(only.type === "string" && NO_VALUE.test(only.value.trim()));
}

const NO_VALUE = /^(?:[-–.?_x0]{0,9}|n\.?\/?a\.?|null|none|nil|unknown|undefined|tbd|todo|test|empty|dummy|keine?)$/i;

/** A key that is looked up by a name which nothing keeps unique: `owner_id IN (SELECT owner_id FROM owner WHERE name = 'Ada Storm')`. */
function keyByName(part: Expr, names: Resolution, dialect: Dialect, show: (node: Span) => string): Draft | null {
  const query =
    part.kind === "in" && !part.negated
      ? part.query
      : part.kind === "binary" && part.op === "=" && part.right.kind === "subquery"
        ? part.right.query
        : null;
  const body = query?.body;
  if (
    !query ||
    query.limit ||
    body?.kind !== "select" ||
    body.from.length !== 1 ||
    body.items.length !== 1 ||
    !body.where
  )
    return null;
  const [relation] = names.scopes.get(body)?.relations ?? [];
  const item = usedColumn(body.items[0].expr, names);
  const { table } = relation ?? {};
  if (!table || !item || !uniqueOn(relation, new Set([item.offered?.name ?? item.name]))) return null;
  const parts = conjuncts(body.where);
  const pinned = pinnedConstants(parts, names);
  if (pinned.length !== parts.length || pinned.length === 0) return null;
  const columns = pinned.map(({ column }) => columnLike(table, column.name));
  if (!pinned.every(({ column, values }, i) => isSomebodys(values) && looksLikeOne(columns[i] ?? column))) return null;
  if (columns.some((column) => !column || valueKind(column, dialect) !== "text")) return null;
  if (uniqueOn(relation, new Set(columns.map((column) => column?.name ?? "")))) return null;
  const words = pinned.map(({ column, values }) => `\`${column.name}\` = ${shownValue(values[0])}`).join(" and ");
  return {
    message: `Several rows of \`${table.name}\` may have ${words}`,
    because: [
      `no key of \`${table.name}\` keeps \`${pinned[0].column.name}\` unique`,
      ...(part.kind === "binary"
        ? ["where there are several, most engines refuse the statement, and some take any of them"]
        : []),
    ],
    remedy: `Look the key up first, and write it out: ${show(query)}`,
  };
}
