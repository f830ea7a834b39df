import type { Catalog } from "./catalog.ts";
import { columnNamed } from "./columns.ts";
import { tableKey } from "./keys.ts";
import {
  type CatalogObject,
  type Column,
  type ForeignKey,
  type Key,
  type ObjectKind,
  shownName,
  type Table,
} from "./model.ts";

/** One thing in which two states of a database differ. */
export interface Difference {
  /** What it is about: `table`, `column`, `key`, `view`… */
  what: ObjectKind | "column" | "key";
  /** The key of the object, or of the table of a column or a key. */
  key: string;
  /** The difference in words, with the state before as what ought to be: "column `fee` of `mooring` is gone". */
  text: string;
}

const KINDS = ["table", "view", "trigger", "rule", "routine", "sequence", "synonym", "type"] as const;

/**
 * In what a database differs from what it was, object by object: what is gone, what is left over, what is another. Names of
 * keys and constraints, comments and statistics are not compared. `leaves` are the keys of what is not compared because it was
 * not known before.
 *
 * @example
 * differences(before, after)[0].text // "table `berth_plan` stays"
 */
export function differences(before: Catalog, after: Catalog, leaves: ReadonlySet<string> = new Set()): Difference[] {
  if (before === after) return [];
  const found: Difference[] = [];
  for (const kind of KINDS) {
    for (const object of before.objects(kind)) {
      const key = keyOf(object);
      const now = after.object(kind, key);
      if (now === object) continue;
      if (!now) found.push({ what: kind, key: tableOf(object), text: `${nameOf(object)} is gone` });
      else if (object.object === "table" && now.object === "table")
        found.push(...tableDifferences(object, now, before, after));
      else if (contentOf(object) !== contentOf(now))
        found.push({ what: kind, key: tableOf(object), text: `${nameOf(object)} is another than it was` });
    }
    for (const object of after.objects(kind)) {
      const key = keyOf(object);
      if (before.object(kind, key) || leaves.has(key) || leaves.has(tableOf(object))) continue;
      if (object.object === "table" && object.temporary) continue;
      found.push({ what: kind, key: tableOf(object), text: `${nameOf(object)} stays` });
    }
  }
  return found;
}

/** The key of an object; triggers and rules are named within their table. */
function keyOf(object: CatalogObject): string {
  return object.object === "trigger" || object.object === "rule"
    ? `${object.table}\0${object.name}`
    : tableKey(object.schema, object.name);
}

function tableOf(object: CatalogObject): string {
  return object.object === "trigger" || object.object === "rule" ? object.table : tableKey(object.schema, object.name);
}

function nameOf(object: CatalogObject): string {
  return `${object.object} \`${object.object === "trigger" || object.object === "rule" ? object.name : shownName(object)}\``;
}

/** What an object is, but for what is not structure. */
function contentOf(object: CatalogObject): string {
  return JSON.stringify(object, (key, value: unknown) =>
    key === "comment" || key === "schema" || key === "spelling"
      ? undefined
      : typeof value === "string"
        ? compact(value)
        : value,
  );
}

/** Blanks do not count, nor does a terminator at the end. */
function compact(text: string): string {
  return text.split(/\s+/).join(" ").replace(/;$/, "").trim();
}

function tableDifferences(before: Table, now: Table, was: Catalog, is: Catalog): Difference[] {
  const key = tableKey(before.schema, before.name);
  const shown = shownName(before);
  const found: Difference[] = [];
  const column = (text: string): void => void found.push({ what: "column", key, text });
  const other = (text: string): void => void found.push({ what: "key", key, text });
  if (before.partial || now.partial) return found;
  for (const one of before.columns) {
    const own = columnNamed(now, one.name);
    if (!own) column(`column \`${one.name}\` of \`${shown}\` is gone`);
    else if (own !== one)
      for (const text of columnDifferences(one, own)) column(`\`${one.name}\` of \`${shown}\` ${text}`);
  }
  for (const one of now.columns)
    if (!columnNamed(before, one.name)) column(`column \`${one.name}\` of \`${shown}\` stays`);
  const keys = (what: string, was: readonly string[], is: readonly string[]): void => {
    for (const one of without(was, is)) other(`${what} ${one} of \`${shown}\` is gone`);
    for (const one of without(is, was)) other(`${what} ${one} of \`${shown}\` stays`);
  };
  keys("the primary key", ofKey(before.primaryKey), ofKey(now.primaryKey));
  keys("the unique key", before.uniqueKeys.flatMap(ofKey), now.uniqueKeys.flatMap(ofKey));
  const references = (table: Table, catalog: Catalog): string[] =>
    table.foreignKeys.map((one) => ofForeignKey(one, catalog));
  keys("the foreign key", references(before, was), references(now, is));
  const check = ({ condition }: { condition: string }): string => `CHECK ${compact(condition)}`;
  keys("the constraint", before.checks.map(check), now.checks.map(check));
  return found;
}

/** The texts that others lack, each as often as it is there more often. */
function without(texts: readonly string[], others: readonly string[]): string[] {
  const left = [...others];
  return texts.filter((text) => {
    const at = left.indexOf(text);
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
}

function columnDifferences(was: Column, is: Column): string[] {
  const texts: string[] = [];
  const type = ({ type, typeArgs, array }: Column): string =>
    `\`${type}${typeArgs.length > 0 ? `(${typeArgs.join(", ")})` : ""}${array ? "[]" : ""}\``;
  if (type(was) !== type(is)) texts.push(`is ${type(is)}, and was ${type(was)}`);
  if (was.required !== is.required) texts.push(is.required ? "is NOT NULL, and was not" : "is no longer NOT NULL");
  if (was.default !== is.default)
    texts.push(
      is.default === null
        ? `has lost its default ${was.default}`
        : `has the default ${is.default}, and had ${was.default ?? "none"}`,
    );
  if (was.generated !== is.generated || was.expression !== is.expression) texts.push("is computed in another way");
  if (was.identity !== is.identity) texts.push("is numbered in another way");
  if (was.onUpdate !== is.onUpdate) texts.push("is stamped in another way");
  if (was.collation !== is.collation) texts.push(`has the collation ${is.collation ?? "of the database"}`);
  return texts;
}

function ofKey(key: Key | null): string[] {
  if (!key) return [];
  return [`(${key.columns.join(", ")})${key.where === null ? "" : ` WHERE ${compact(key.where)}`}`];
}

function ofForeignKey({ columns, table, referenced, onDelete, onUpdate }: ForeignKey, catalog: Catalog): string {
  // Without columns it refers to the primary key.
  const named = referenced.length > 0 ? referenced : (catalog.byKey(table)?.primaryKey?.columns ?? []);
  const to = named.length > 0 ? ` (${named.join(", ")})` : "";
  const bare = table.slice(table.lastIndexOf("\0") + 1);
  const does = [
    ...(onDelete === "no action" ? [] : [` ON DELETE ${onDelete.toUpperCase()}`]),
    ...(onUpdate === "no action" ? [] : [` ON UPDATE ${onUpdate.toUpperCase()}`]),
  ];
  return `(${columns.join(", ")}) to ${bare}${to}${does.join("")}`;
}
