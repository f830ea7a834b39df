import type { DialectId } from "../../sql/dialects/dialect.ts";
import { dialects } from "../../sql/dialects/index.ts";
import { Catalog } from "../catalog.ts";
import { catalogFromDdl } from "../ddl/from-ddl.ts";
import { tableKey } from "../keys.ts";
import { foldName } from "../names.ts";

/**
 * What a database's dictionary says, as its reader hands it over: the definitions of its objects in
 * the dialect's own DDL, and what DDL cannot say. Definitions are replayed in their order.
 */
export interface Dictionary {
  dialect: DialectId;
  searchPath?: readonly string[];
  ddl: readonly string[];
  facts: readonly TableFacts[];
  /** Triggers that do not fire in an ordinary session, or do so in others too. */
  triggers?: readonly { schema: string; table: string; name: string; enabled: "off" | "replica" | "always" }[];
}

/** What is known of a table beyond its definition. */
export interface TableFacts {
  schema: string;
  name: string;
  rows?: number | null;
  kind?: "table" | "virtual" | "partitioned" | "linked";
  comment?: string | null;
  temporary?: boolean;
  partitionOf?: [string, string] | null;
  inherits?: readonly [string, string][];
  columns?: readonly { name: string; distinct?: number | null; nulls?: number | null; comment?: string | null }[];
}

/** Builds a catalog from what a dictionary says. Names of facts are written as the database keeps them. */
export function catalogFromDictionary(dictionary: Dictionary): Catalog {
  const dialect = dialects[dictionary.dialect];
  const fold = (text: string): string => foldName({ text, quoted: true }, dialect);
  let catalog = new Catalog(
    dictionary.dialect,
    dictionary.searchPath ? { searchPath: dictionary.searchPath.map(fold) } : {},
  );
  for (const text of dictionary.ddl)
    catalog = flat(catalogFromDdl(text, { dialect: dictionary.dialect, onto: catalog }), catalog);
  for (const facts of dictionary.facts) {
    const table = catalog.get(fold(facts.schema), fold(facts.name));
    if (!table) continue;
    const known = new Map(facts.columns?.map((one) => [fold(one.name), one]));
    catalog.put({
      ...table,
      rows: facts.rows ?? table.rows,
      kind: facts.kind ?? table.kind,
      comment: facts.comment ?? table.comment,
      temporary: facts.temporary ?? table.temporary,
      partitionOf: facts.partitionOf
        ? tableKey(fold(facts.partitionOf[0]), fold(facts.partitionOf[1]))
        : table.partitionOf,
      inherits: facts.inherits?.map(([schema, name]) => tableKey(fold(schema), fold(name))) ?? table.inherits,
      columns: table.columns.map((column) => {
        const fact = known.get(column.name);
        if (!fact) return column;
        return {
          ...column,
          distinct: fact.distinct ?? column.distinct,
          nulls: fact.nulls ?? column.nulls,
          comment: fact.comment ?? column.comment,
        };
      }),
    });
  }
  for (const { schema, table, name, enabled } of dictionary.triggers ?? []) {
    const trigger = catalog.triggersOf(tableKey(fold(schema), fold(table))).find((one) => one.name === fold(name));
    if (trigger) catalog.put({ ...trigger, enabled });
  }
  return catalog;
}

/** Each piece of DDL is replayed onto a layer of its own; the layers are put together again. */
function flat(layer: Catalog, base: Catalog): Catalog {
  for (const kind of ["table", "view", "trigger", "rule", "routine", "sequence", "synonym", "type"] as const) {
    for (const object of layer.own(kind)) base.put(object);
  }
  return base;
}
