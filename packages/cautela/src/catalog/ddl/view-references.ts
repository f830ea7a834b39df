import type { Dialect } from "../../sql/dialects/dialect.ts";
import { dialects } from "../../sql/dialects/index.ts";
import type { ColumnRef, Query, Source } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Catalog } from "../catalog.ts";
import { tableKey } from "../keys.ts";
import type { View } from "../model.ts";
import { foldName, tableNameOf } from "../names.ts";
import { viewQuery } from "../parsed-code.ts";

// What the views that are there refer to, and how their texts change with what they refer to: PostgreSQL binds a view to its
// tables and columns, whatever they are called later, and SQLite writes its definition anew.

type TableSource = Extract<Source, { kind: "table" }>;

/** The places in a view's query that name a table or view; a bare name in its text is of the usual schema or temporary. */
function sourcesOf(view: View, query: Query, key: string, dialect: Dialect): TableSource[] {
  const { defaultSchema, temporarySchema } = dialect.grammar;
  const found: TableSource[] = [];
  walk(query, (node) => {
    if (node.kind !== "table") return undefined;
    const { schema, table } = tableNameOf(node.name, dialect);
    const homes = node.name.parts.length > 1 ? [schema] : [defaultSchema, temporarySchema, view.schema];
    if (homes.some((home) => tableKey(home, table) === key)) found.push(node);
    return undefined;
  });
  return found;
}

/** Calls `see` for each column that belongs to the sources, and for each star that stands for theirs (then with null). */
function columnsOf(
  query: Query,
  sources: readonly TableSource[],
  dialect: Dialect,
  see: (column: string | null, node: ColumnRef | null) => void,
): void {
  const names = new Set(
    sources.map(({ alias, name }) => foldName(alias ?? name.parts[name.parts.length - 1], dialect)),
  );
  walk(query, (node) => {
    if (node.kind !== "column" && node.kind !== "star") return undefined;
    const parts = node.path.map((part) => foldName(part, dialect));
    const column = node.kind === "star" ? null : (parts.pop() ?? "");
    if (parts.length === 0 || names.has(parts[parts.length - 1])) see(column, node.kind === "column" ? node : null);
    return undefined;
  });
}

/** Whether a view reads what stands under a key; with `columns`, whether it reads one of these. */
export function reads(view: View, key: string, catalog: Catalog, columns: readonly string[] | null): boolean {
  const query = viewQuery(view, catalog.dialect)?.tree;
  if (!query) return false;
  const dialect = dialects[catalog.dialect];
  const sources = sourcesOf(view, query, key, dialect);
  if (sources.length === 0 || columns === null) return sources.length > 0;
  let found = false;
  columnsOf(query, sources, dialect, (column) => {
    // A star stands for the columns of the day on which the view was made.
    found ||= column === null ? columns.some((one) => view.columns?.includes(one) ?? true) : columns.includes(column);
  });
  return found;
}

interface Edit {
  start: number;
  end: number;
  text: string;
}

/** The views that read a table or view go on reading it under its new name. */
export function viewsFollow(catalog: Catalog, from: string, schema: string, name: string): void {
  const dialect = dialects[catalog.dialect];
  if (!dialect.engine.viewsFollowNames) return;
  const place = schema === dialect.grammar.defaultSchema || schema === dialect.grammar.temporarySchema ? "" : schema;
  rewrite(catalog, (view, query) =>
    sourcesOf(view, query, from, dialect).map(({ name: old, alias }) => {
      const last = old.parts[old.parts.length - 1];
      const kept = alias ? "" : ` AS ${quoted(foldName(last, dialect))}`;
      return {
        start: old.start,
        end: old.end,
        text: `${place === "" ? "" : `${quoted(place)}.`}${quoted(name)}${kept}`,
      };
    }),
  );
}

/** The views that read a column go on reading it, and show it under the name that they had for it. */
export function viewsFollowColumn(catalog: Catalog, key: string, from: string, to: string): void {
  const dialect = dialects[catalog.dialect];
  if (!dialect.engine.viewsFollowNames) return;
  rewrite(catalog, (view, query) => {
    const sources = sourcesOf(view, query, key, dialect);
    if (sources.length === 0) return [];
    const shown = new Set<unknown>();
    walk(query, (node) => {
      if (node.kind === "select" && "items" in node)
        for (const { expr, alias } of node.items) if (!alias) shown.add(expr);
      return undefined;
    });
    const edits: Edit[] = [];
    columnsOf(query, sources, dialect, (column, node) => {
      if (!node || column !== from) return;
      const last = node.path[node.path.length - 1];
      edits.push({ ...last, text: `${quoted(to)}${shown.has(node) ? ` AS ${quoted(from)}` : ""}` });
    });
    return edits;
  });
}

function rewrite(catalog: Catalog, edits: (view: View, query: Query) => Edit[]): void {
  for (const view of [...catalog.objects("view")]) {
    const parsed = viewQuery(view, catalog.dialect);
    if (!parsed) continue;
    const own = edits(view, parsed.tree).sort((a, b) => a.start - b.start);
    if (own.length === 0) continue;
    let text = "";
    let done = 0;
    for (const { start, end, text: put } of own) {
      text += parsed.text.slice(done, start) + put;
      done = end;
    }
    catalog.put({ ...view, query: text + parsed.text.slice(done) });
  }
}

export function quoted(name: string): string {
  return /^[a-z_][a-z0-9_]*$/.test(name) ? name : `"${name.replaceAll('"', '""')}"`;
}
