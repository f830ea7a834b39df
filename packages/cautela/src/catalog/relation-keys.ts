import type { Dialect } from "../sql/dialects/dialect.ts";
import type { Name } from "../sql/nodes/tree.ts";
import type { Catalog } from "./catalog.ts";
import { keyParts, nameKey, tableKey } from "./keys.ts";
import { shownName } from "./model.ts";
import { tableNameOf, writtenName } from "./names.ts";

// The keys of tables and views as statements name them: what a name means, or what would be made under it.

/** The key of a table or view that is made now, see `Catalog.place`. */
export function newKey(name: Name, catalog: Catalog | null, dialect: Dialect, temporary = false): string {
  if (!catalog) return nameKey(name, dialect);
  const { schema, table } = catalog.place(name, temporary);
  return tableKey(schema, table);
}

/**
 * The key of a table or a view after it takes another name: it stays in its schema unless the name gives one. MariaDB puts
 * it into the database in use.
 */
export function renamedKey(key: string, to: Name, catalog: Catalog | null, dialect: Dialect): string {
  if (to.parts.length > 1 || dialect.grammar.temporaryBesides)
    return newKey(to, catalog, dialect, keyParts(key).schema.startsWith("(temporary)"));
  return tableKey(keyParts(key).schema, tableNameOf(to, dialect).table);
}

/** The key of the table or view that a name means: what the catalog resolves it to, or what would be made under that name. */
export function relationKey(name: Name, catalog: Catalog | null, dialect: Dialect): string {
  const relation = catalog?.resolveRelation(name);
  return relation ? tableKey(relation.schema, relation.name) : newKey(name, catalog, dialect);
}

/** A table or view as a script names it: the key of what it means, and how messages show it. */
export function namedRelation(name: Name, catalog: Catalog | null, dialect: Dialect): { key: string; shown: string } {
  const relation = catalog?.resolveRelation(name);
  return relation
    ? { key: tableKey(relation.schema, relation.name), shown: shownName(relation) }
    : { key: newKey(name, catalog, dialect), shown: writtenName(name) };
}
