import type { Dialect } from "../../sql/dialects/dialect.ts";
import { dialects } from "../../sql/dialects/index.ts";
import type {
  CreateRoutineStatement,
  CreateRuleStatement,
  CreateTypeStatement,
  CreateViewStatement,
} from "../../sql/nodes/tree.ts";
import { singleBlanks } from "../../text/blanks.ts";
import type { Slice } from "../../text/slice.ts";
import type { Catalog } from "../catalog.ts";
import { tableKey } from "../keys.ts";
import { emptyView, type Routine, type Trigger, type TriggerEvent } from "../model.ts";
import { foldName } from "../names.ts";
import { relationKey } from "../relation-keys.ts";
import { typeColumns } from "./apply-table.ts";
import { placedText, readsTemporary } from "./placed-text.ts";
import { queryColumns } from "./query-columns.ts";

/** CREATE VIEW. */
export function createView(catalog: Catalog, statement: CreateViewStatement, slice: Slice): void {
  const dialect = dialects[catalog.dialect];
  const { query } = statement;
  const temporary = statement.temporary || (query !== null && readsTemporary(query, catalog));
  const { schema, table: name } = catalog.place(statement.name, temporary);
  const columns =
    statement.columns?.map((column) => foldName(column, dialect)) ?? (query ? queryColumns(query, catalog) : null);
  catalog.put({
    object: "view",
    schema,
    name,
    columns: columns?.map((column) => (typeof column === "string" ? column : column.name)) ?? null,
    query: query ? placedText(query, catalog, slice) : null,
    checkOption: statement.checkOption,
    materialized: statement.materialized,
    security: statement.security,
    algorithm: statement.algorithm,
    readOnly: statement.readOnly,
    comment: null,
  });
}

/** CREATE FUNCTION, PROCEDURE, PACKAGE and TRIGGER. */
export function createRoutine(catalog: Catalog, statement: CreateRoutineStatement, slice: Slice): void {
  if (!statement.name) return;
  const { schema, table: name } = catalog.place(statement.name);
  if (statement.trigger) {
    createTrigger(catalog, statement, schema, name, slice);
    return;
  }
  const kind = statement.object === "procedure" ? "procedure" : statement.object === "package" ? "package" : "function";
  if (statement.object === "event" || statement.object === "type") return;
  const definition = slice(statement.start, statement.end);
  // The head of a package says nothing that its body does not.
  if (kind === "package" && statement.body === null && !/^[^(;]*?\bpackage\s+body\b/i.test(definition)) return;
  const routine: Routine = {
    object: "routine",
    schema,
    name,
    kind,
    language: statement.language,
    arguments: statement.arguments?.map(({ start, end }) => singleBlanks(slice(start, end))) ?? null,
    volatility: volatility(definition, dialects[catalog.dialect]),
    definition,
  };
  catalog.put(routine);
}

/** What the words after the arguments say of the effects of a function. */
function volatility(definition: string, dialect: Dialect): Routine["volatility"] {
  if (!dialect.engine.triggersByName)
    return /\bdeterministic\b/i.test(definition) && !/\bnot\s+deterministic\b/i.test(definition) ? "immutable" : null;
  const head = definition.split(/\$|'/, 1)[0] + (definition.match(/[$'][^$']*$/)?.[0] ?? "");
  if (/\bimmutable\b/i.test(head)) return "immutable";
  if (/\bstable\b/i.test(head)) return "stable";
  return "volatile";
}

function createTrigger(
  catalog: Catalog,
  statement: CreateRoutineStatement,
  schema: string,
  name: string,
  slice: Slice,
): void {
  const dialect = dialects[catalog.dialect];
  const head = statement.trigger;
  if (!head?.table) return;
  const relation = catalog.resolveRelation(head.table);
  const table = relationKey(head.table, catalog, dialect);
  const calls = statement.calls ? catalog.place(statement.calls) : null;
  const routine = statement.calls ? catalog.routine(statement.calls) : undefined;
  const events = [...new Set(head.events)] as TriggerEvent[];
  const order = ["insert", "update", "delete", "truncate"];
  const trigger: Trigger = {
    object: "trigger",
    schema: relation?.schema ?? schema,
    name,
    table,
    timing: head.timing,
    events: events.sort((a, b) => order.indexOf(a) - order.indexOf(b)),
    columns: head.columns?.map((column) => foldName(column, dialect)) ?? null,
    level: head.row ? "row" : "statement",
    condition: head.when ? slice(head.when.start, head.when.end) : null,
    enabled: "origin",
    order: orderOf(catalog, table),
    calls: routine ? tableKey(routine.schema, routine.name) : calls ? tableKey(calls.schema, calls.table) : null,
    // The whole definition: what the body means depends on its head.
    body: calls ? null : slice(statement.start, statement.end),
  };
  catalog.put(trigger);
}

/** PostgreSQL fires triggers by name; the others in the order in which they were made. */
function orderOf(catalog: Catalog, table: string): number | null {
  if (dialects[catalog.dialect].engine.triggersByName) return null;
  return catalog.triggersOf(table).reduce((last, one) => Math.max(last, (one.order ?? 0) + 1), 1);
}

export function createRule(catalog: Catalog, statement: CreateRuleStatement, slice: Slice): void {
  const dialect = dialects[catalog.dialect];
  const relation = catalog.resolveRelation(statement.table);
  const written = catalog.place(statement.table);
  const schema = relation?.schema ?? written.schema;
  const { body } = statement;
  const [read] = body;
  if (statement.event === "select" && relation?.object === "table" && read?.kind === "select") {
    // A rule "_RETURN" makes a view of its table (PostgreSQL 15 manual, 41.2.1).
    catalog.remove("table", tableKey(relation.schema, relation.name));
    const columns = relation.columns.map(({ name }) => name);
    const { name } = relation;
    catalog.put({ ...emptyView(schema, name), columns, query: placedText(read.query, catalog, slice) });
    return;
  }
  catalog.put({
    object: "rule",
    schema,
    name: foldName(statement.name.parts[statement.name.parts.length - 1], dialect),
    table: tableKey(schema, relation?.name ?? written.table),
    event: statement.event,
    instead: statement.instead,
    condition: statement.where ? slice(statement.where.start, statement.where.end) : null,
    body: body.length > 0 ? body.map(({ start, end }) => slice(start, end)).join(";\n") : null,
    enabled: true,
  });
}

export function createType(catalog: Catalog, statement: CreateTypeStatement, slice: Slice): void {
  const { schema, table: name } = catalog.place(statement.name);
  catalog.put({
    object: "type",
    schema,
    name,
    enumeration: statement.enumeration,
    columns: statement.attributes ? typeColumns(statement.attributes, dialects[catalog.dialect], slice, catalog) : null,
    base: statement.base ? slice(statement.base.start, statement.base.end) : null,
    required: statement.required,
    checks: statement.checks.map(({ start, end }) => slice(start, end)),
  });
}
