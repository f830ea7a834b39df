import type { Catalog } from "../../catalog/catalog.ts";
import { enumeration } from "../../catalog/enumeration.ts";
import { tableKey } from "../../catalog/keys.ts";
import type { Table } from "../../catalog/model.ts";
import type { Resolution } from "../names/resolution.ts";
import { Trait } from "./traits.ts";

const own = new WeakMap<Table, number>();

/** What the tables of a statement's own level bring with them, see `Trait`. */
export function relationTraits(
  names: Resolution,
  node: Parameters<Resolution["scopes"]["get"]>[0],
  catalog: Catalog,
): number {
  const scope = names.scopes.get(node);
  if (!scope) return ALL;
  let traits = 0;
  for (const { table } of scope.relations) traits |= table ? tableTraits(table, catalog) : ALL;
  return traits;
}

const ALL = Trait.listed | Trait.computed | Trait.referring;

function tableTraits(table: Table, catalog: Catalog): number {
  let traits = own.get(table);
  if (traits === undefined) {
    traits = 0;
    if (table.checks.length > 0 || table.columns.some((column) => enumeration(column, catalog) !== null))
      traits |= Trait.listed;
    // A time stamp of tsql counts the changes of its row.
    if (table.columns.some(({ generated, identity, type }) => generated || identity || type === "timestamp"))
      traits |= Trait.computed;
    own.set(table, traits);
  }
  const referring = table.foreignKeys.length > 0 || catalog.isReferred(tableKey(table.schema, table.name));
  return referring ? traits | Trait.referring : traits;
}
