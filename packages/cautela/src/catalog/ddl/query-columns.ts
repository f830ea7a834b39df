import { dialects } from "../../sql/dialects/index.ts";
import type { Query, QueryBody, Source } from "../../sql/nodes/tree.ts";
import type { Catalog } from "../catalog.ts";
import { columnNamed } from "../columns.ts";
import { type Column, plainColumn } from "../model.ts";
import { foldName, spellingOf } from "../names.ts";

/**
 * The columns that a query gives, with what is known of each; null where a star stands for a source
 * that is not known.
 */
export function queryColumns(query: Query, catalog: Catalog): Column[] | null {
  return bodyColumns(query.body, catalog);
}

function bodyColumns(body: QueryBody, catalog: Catalog): Column[] | null {
  const dialect = dialects[catalog.dialect];
  switch (body.kind) {
    case "query":
      return bodyColumns(body.body, catalog);
    case "compounded":
      return bodyColumns(body.first, catalog);
    case "values":
      return (body.rows[0] ?? []).map((_, i) => plainColumn(`column${i + 1}`));
    case "table-query":
      return relationColumns(catalog, {
        kind: "table",
        name: body.name,
        alias: null,
        columns: null,
        only: false,
        hints: false,
        start: body.start,
        end: body.end,
      });
    case "select": {
      const columns: Column[] = [];
      const sources = body.from.flatMap((source) => parts(source));
      for (const { expr, alias } of body.items) {
        if (expr.kind === "star") {
          const qualifier = expr.path.length > 0 ? foldName(expr.path[expr.path.length - 1], dialect) : null;
          for (const source of sources) {
            if (qualifier !== null && sourceName(source, catalog) !== qualifier) continue;
            const known = relationColumns(catalog, source);
            if (!known) return null;
            columns.push(...known);
          }
          continue;
        }
        // A count is a whole number, whatever is counted.
        const counted = expr.kind === "call" && /^count$/i.test(expr.name.parts[expr.name.parts.length - 1].text);
        if (counted && expr.kind === "call") {
          const name = alias
            ? foldName(alias, dialect)
            : foldName(expr.name.parts[expr.name.parts.length - 1], dialect);
          columns.push({ ...plainColumn(name, dialect.engine.countType), required: true });
          continue;
        }
        if (alias) {
          columns.push({
            ...(sourceColumn(expr, sources, catalog) ?? plainColumn("")),
            name: foldName(alias, dialect),
            spelling: spellingOf(alias, dialect),
          });
          continue;
        }
        if (expr.kind === "column") {
          const name = foldName(expr.path[expr.path.length - 1], dialect);
          columns.push({ ...(sourceColumn(expr, sources, catalog) ?? plainColumn(name)), name });
        } else if (expr.kind === "call") {
          columns.push(plainColumn(foldName(expr.name.parts[expr.name.parts.length - 1], dialect)));
        } else
          columns.push(plainColumn(dialect.engine.questionLabels ? (expr.kind === "case" ? "case" : "?column?") : ""));
      }
      return columns;
    }
  }
}

function parts(source: Source): Source[] {
  return source.kind === "joined"
    ? [...parts(source.first), ...source.joins.flatMap((join) => parts(join.source))]
    : [source];
}

function sourceName(source: Source, catalog: Catalog): string {
  const dialect = dialects[catalog.dialect];
  if (source.alias) return foldName(source.alias, dialect);
  return source.kind === "table" ? foldName(source.name.parts[source.name.parts.length - 1], dialect) : "";
}

function relationColumns(catalog: Catalog, source: Source): Column[] | null {
  if (source.kind === "derived") {
    const columns = source.query.kind === "query" ? queryColumns(source.query, catalog) : null;
    const names = source.columns?.map((one) => foldName(one, dialects[catalog.dialect]));
    return columns && names
      ? columns.map((one, i) => (names[i] === undefined ? one : { ...one, name: names[i] }))
      : columns;
  }
  if (source.kind !== "table") return null;
  const relation = catalog.resolveRelation(source.name);
  if (!relation) return null;
  if (relation.object === "table") return relation.partial ? null : [...relation.columns];
  return relation.columns?.map((name) => plainColumn(name)) ?? null;
}

/** What a plain column of the select list is in its source. */
function sourceColumn(expr: { kind: string }, sources: readonly Source[], catalog: Catalog): Column | undefined {
  const column = expr as Extract<Query["body"], { kind: "select" }>["items"][number]["expr"];
  if (column.kind !== "column") return undefined;
  const dialect = dialects[catalog.dialect];
  const name = foldName(column.path[column.path.length - 1], dialect);
  const qualifier = column.path.length > 1 ? foldName(column.path[column.path.length - 2], dialect) : null;
  for (const source of sources) {
    if (source.kind !== "table" || (qualifier !== null && sourceName(source, catalog) !== qualifier)) continue;
    const found = columnNamed(catalog.resolve(source.name), name);
    if (found) return found;
  }
  return undefined;
}
