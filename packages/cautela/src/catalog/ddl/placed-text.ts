import type { Dialect } from "../../sql/dialects/dialect.ts";
import { dialects } from "../../sql/dialects/index.ts";
import type { Name, Query } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Slice } from "../../text/slice.ts";
import type { Catalog } from "../catalog.ts";
import { foldName } from "../names.ts";
import { quoted } from "./view-references.ts";

/**
 * The text of a view's query in which each table is written with the schema that it has now: what a view reads is settled
 * when it is made, whatever the search path is later (PostgreSQL 15 manual, CREATE VIEW). Tables of the usual schema stay as
 * they are written.
 */
export function placedText(query: Query, catalog: Catalog, slice: Slice): string {
  const dialect = dialects[catalog.dialect];
  const { defaultSchema, temporarySchema } = dialect.grammar;
  const { names, inner } = tableNames(query, dialect);
  let text = "";
  let done = query.start;
  for (const name of names.sort((a, b) => a.start - b.start)) {
    const last = name.parts[name.parts.length - 1];
    const bare = slice(name.start, name.end) === slice(last.start, last.end);
    if (!bare || last.hole || inner.has(foldName(last, dialect)) || name.start < done) continue;
    const schema = catalog.resolveRelation(name)?.schema ?? defaultSchema;
    if (schema === defaultSchema || schema === temporarySchema || schema === "") continue;
    text += `${slice(done, name.start)}${quoted(schema)}.`;
    done = name.start;
  }
  return text + slice(done, query.end);
}

/** Whether a view over this query is temporary because a table that it reads is (PostgreSQL). */
export function readsTemporary(query: Query, catalog: Catalog): boolean {
  const dialect = dialects[catalog.dialect];
  if (!dialect.engine.searchPath) return false;
  const { names, inner } = tableNames(query, dialect);
  return names.some((name) => {
    if (name.parts.length === 1 && inner.has(foldName(name.parts[0], dialect))) return false;
    return catalog.resolveRelation(name)?.schema === dialect.grammar.temporarySchema;
  });
}

/** The tables that a query names, and the names that its WITH gives to queries. */
function tableNames(query: Query, dialect: Dialect): { names: Name[]; inner: ReadonlySet<string> } {
  const inner = new Set<string>();
  const names: Name[] = [];
  walk(query, (node) => {
    if (node.kind === "query") for (const { name } of node.with?.tables ?? []) inner.add(foldName(name, dialect));
    if (node.kind === "table") names.push(node.name);
    return undefined;
  });
  return { names, inner };
}
