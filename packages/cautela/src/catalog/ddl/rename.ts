import { Catalog } from "../catalog.ts";
import { tableKey } from "../keys.ts";
import type { CatalogObject, Table } from "../model.ts";
import { viewsFollow } from "./view-references.ts";

/** Gives a table or view another name; keys and triggers that refer to it follow. */
export function renameRelation(
  catalog: Catalog,
  old: CatalogObject,
  schema: string,
  name: string,
  written: Table["written"] = null,
): void {
  if (old.object !== "table" && old.object !== "view") return;
  const from = tableKey(old.schema, old.name);
  const to = tableKey(schema, name);
  const triggers = catalog.triggersOf(from);
  const rules = catalog.rulesOf(from);
  const referencing = catalog.referencing(from);
  const children = catalog.childrenOf(from);
  viewsFollow(catalog, from, schema, name);
  catalog.remove(old.object, from);
  catalog.put(old.object === "table" ? { ...old, schema, name, written } : { ...old, schema, name });
  for (const guard of [...triggers, ...rules]) {
    catalog.remove(guard.object, Catalog.guardKey(guard));
    catalog.put({ ...guard, table: to });
  }
  const moved = (key: string): string => (key === from ? to : key);
  for (const table of new Set<Table>([...referencing, ...children])) {
    const current =
      table.schema === old.schema && table.name === old.name
        ? catalog.byKey(to)
        : catalog.byKey(tableKey(table.schema, table.name));
    if (!current) continue;
    catalog.put({
      ...current,
      foreignKeys: current.foreignKeys.map((key) => ({ ...key, table: moved(key.table) })),
      inherits: current.inherits.map(moved),
      partitionOf: current.partitionOf === null ? null : moved(current.partitionOf),
    });
  }
}
