import { dialects } from "../../sql/dialects/index.ts";
import type { Query, Select } from "../../sql/nodes/tree.ts";
import type { Catalog } from "../catalog.ts";
import { namesKey } from "../columns.ts";
import { foldName } from "../names.ts";

/**
 * The sets of columns that are unique in a table which a query has just filled: the key of the one table that it reads,
 * where the query takes it along; the columns of GROUP BY; all columns of a DISTINCT.
 *
 * @example
 * // CREATE TABLE bun_was AS SELECT bun_id, price FROM bun   -- [["bun_id"]]
 */
export function builtKeys(query: Query, columns: readonly string[], catalog: Catalog): readonly (readonly string[])[] {
  const { body } = query;
  const dialect = dialects[catalog.dialect];
  if (body.kind === "table-query") return keysOf(catalog, body.name, (column) => column);
  if (body.kind !== "select") return [];
  /** The name that a column of the source has in the result; null where it is not in it. */
  const name = (column: string): string | null => {
    for (const { expr, alias } of body.items) {
      if (expr.kind === "star") return column;
      if (expr.kind === "column" && foldName(expr.path[expr.path.length - 1], dialect) === column)
        return alias ? foldName(alias, dialect) : column;
    }
    return null;
  };
  if (body.groupBy.length > 0) {
    const groups = body.groupBy.map((expr) =>
      expr.kind === "column" ? name(foldName(expr.path[expr.path.length - 1], dialect)) : null,
    );
    const gathered = gatheredColumns(body, catalog);
    return [...(groups.every((one) => one !== null) ? [groups as string[]] : []), ...gathered.map((one) => [one])];
  }
  if (body.distinct) return columns.length > 0 ? [columns] : [];
  const [source] = body.from;
  return body.from.length === 1 && source.kind === "table" ? keysOf(catalog, source.name, name) : [];
}

/**
 * The columns of a grouped query that gather a key of its table, in small letters: each of its values is in one group alone.
 * Where the table is not known the name of the column tells.
 *
 * @example
 * // SELECT min(id) AS kept, array_agg(id) AS ids FROM owner GROUP BY lower(mail)   -- ["ids"]
 */
export function gatheredColumns(body: Select, catalog: Catalog | null): readonly string[] {
  const [source] = body.from;
  if (body.from.length !== 1 || source.kind !== "table") return [];
  const known = catalog?.resolve(source.name);
  const keys = known && !known.partial ? [known.primaryKey, ...known.uniqueKeys].filter((one) => one !== null) : null;
  return body.items.flatMap(({ expr, alias }) => {
    if (expr.kind !== "call" || expr.args.length !== 1 || expr.args[0].kind !== "column") return [];
    if (!/^array_agg$/i.test(expr.name.parts[expr.name.parts.length - 1].text)) return [];
    const { path } = expr.args[0];
    const column = path[path.length - 1].text.toLowerCase();
    const single =
      keys === null
        ? namesKey(path[path.length - 1].text)
        : keys.some(({ columns }) => columns.length === 1 && columns[0].toLowerCase() === column);
    return single ? [(alias?.text ?? "array_agg").toLowerCase()] : [];
  });
}

function keysOf(
  catalog: Catalog,
  table: Parameters<Catalog["resolve"]>[0],
  name: (column: string) => string | null,
): readonly (readonly string[])[] {
  const known = catalog.resolve(table);
  if (!known) return [];
  const keys = [...(known.primaryKey ? [known.primaryKey] : []), ...known.uniqueKeys].filter(({ partial }) => !partial);
  return [...keys.map(({ columns }) => columns), ...known.built].flatMap((columns) => {
    const named = columns.map(name);
    return named.length > 0 && named.every((one) => one !== null) ? [named as string[]] : [];
  });
}
