import { dialects } from "../../sql/dialects/index.ts";
import type { Expr, Ident, Name, RenameStatement, SettingStatement, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Slice } from "../../text/slice.ts";
import { Catalog } from "../catalog.ts";
import { tableKey } from "../keys.ts";
import type { Rule, Table, Trigger } from "../model.ts";
import { foldName, spelledName } from "../names.ts";
import { relationKey } from "../relation-keys.ts";
import { createRoutine, createRule, createType, createView } from "./apply-code.ts";
import { alterTable, createIndex, createTable, selectInto } from "./apply-table.ts";
import { drop } from "./drop.ts";
import { renameRelation } from "./rename.ts";

/**
 * Changes a catalog as a statement would. Statements that change no structure leave it as it is.
 * The same replay builds a catalog from DDL and follows a script under review.
 */
export function replay(catalog: Catalog, statement: Statement, slice: Slice): void {
  switch (statement.kind) {
    case "create-table":
      createTable(catalog, statement, slice);
      break;
    case "insert":
    case "merge":
    case "copy": {
      if (!catalog.holdsBuilt) break;
      // Other rows come in: what was unique may not be so any more.
      const into =
        statement.kind === "copy" ? statement.table : statement.target.kind === "table" ? statement.target.name : null;
      const filled = into ? catalog.resolve(into) : undefined;
      if (filled && filled.built.length > 0) catalog.put({ ...filled, built: [] });
      break;
    }
    case "create-index":
      createIndex(catalog, statement, slice);
      break;
    case "alter-table":
      alterTable(catalog, statement, slice);
      break;
    case "create-view":
      createView(catalog, statement, slice);
      break;
    case "create-routine":
      createRoutine(catalog, statement, slice);
      break;
    case "create-rule":
      createRule(catalog, statement, slice);
      break;
    case "create-type":
      createType(catalog, statement, slice);
      break;
    case "create-synonym": {
      const { schema, table } = catalog.place(statement.name);
      const target = relationKey(statement.target, catalog, dialects[catalog.dialect]);
      catalog.put({ object: "synonym", schema, name: table, target });
      break;
    }
    case "comment":
      comment(catalog, statement.object, statement.name, statement.text);
      break;
    case "alter-trigger":
      switchTriggers(catalog, statement.names, statement.table, statement.enabled);
      break;
    case "rename":
      rename(catalog, statement);
      break;
    case "setting":
      setting(catalog, statement);
      break;
    case "opaque":
      if (statement.verb === "create" && statement.object === "sequence" && statement.name) {
        const { schema, table } = catalog.place(statement.name);
        catalog.put({ object: "sequence", schema, name: table });
      }
      break;
    case "create-schema":
      catalog.makeSchema(foldName(statement.name.parts[statement.name.parts.length - 1], dialects[catalog.dialect]));
      break;
    case "drop":
      drop(catalog, statement, dialects[catalog.dialect]);
      break;
    case "select":
      selectInto(catalog, statement);
      if (statement.query.body.kind === "select" && statement.query.body.from.length === 0)
        for (const { expr } of statement.query.body.items)
          if (expr.kind === "call" && expr.args.length > 0) unsettleCalled(catalog, expr.name, expr.args, false);
      break;
    case "call-statement":
      if (statement.name) unsettleCalled(catalog, statement.name, statement.args, true);
      break;
    case "dynamic":
      if (statement.body === null) unsettle(catalog, statement);
      break;
    default:
  }
}

/**
 * A routine of which nothing is known may alter the table that it is given by name: it may add what else it is given, and a
 * procedure that is given nothing else may add anything.
 */
function unsettleCalled(catalog: Catalog, name: Name, args: readonly Expr[], procedure: boolean): void {
  if (catalog.routine(name)) return;
  const words = args.flatMap((arg) => (arg.kind === "literal" && arg.type === "string" ? [arg.value] : []));
  const tables = words.flatMap((word) => namedTable(catalog, word) ?? []);
  if (tables.length === 0) return;
  const others = words.filter((word) => /^[\w$#]{1,128}$/.test(word) && !namedTable(catalog, word));
  const dialect = dialects[catalog.dialect];
  for (const { schema, name: table } of tables)
    for (const text of others) catalog.mayGet(tableKey(schema, table), foldName({ text, quoted: false }, dialect));
  if (others.length > 0 || !procedure || ENGINES_OWN.test(name.parts[0].text)) return;
  for (const table of tables) catalog.put({ ...table, partial: true });
}

/** Procedures that come with an engine. */
const ENGINES_OWN = /^(?:sp_|xp_|sys$|dbms_|utl_|mysql$)/i;

/** SQL that is put together may alter the tables that its pieces name; where they name none, any table. */
function unsettle(catalog: Catalog, statement: Extract<Statement, { kind: "dynamic" }>): void {
  let first: string | null = null;
  let named = false;
  walk(statement, (node) => {
    if (node.kind !== "literal" || node.type !== "string") return undefined;
    first ??= node.value;
    if (ALTERS_NOTHING.test(first)) return false;
    for (const word of node.value.split(/[^\w.$#]+/)) if (word !== "" && unsettleNamed(catalog, word)) named = true;
    return undefined;
  });
  if (!named && !ALTERS_NOTHING.test(first ?? "")) catalog.unsettle();
}

/** Texts that begin so change no columns. */
const ALTERS_NOTHING =
  /^\s*(?:select|with|insert|update|delete|merge|replace|truncate|grant|revoke|comment|analy[sz]e|vacuum|set|call|exec|create\s+(?:unique\s+)?index|drop\s+index|refresh)\b/i;

/** From here on more columns of a table may be there than are known; whether there is such a table. */
function unsettleNamed(catalog: Catalog, text: string): boolean {
  const table = namedTable(catalog, text);
  if (table && !table.partial) catalog.put({ ...table, partial: true });
  return table !== undefined;
}

/** The table that a text names: `berth`, `dbo.berth`. */
function namedTable(catalog: Catalog, text: string): Table | undefined {
  const parts = text.split(".").map((part) => ({ text: part, quoted: false, hole: false, start: 0, end: 0 }));
  return catalog.resolve({ kind: "name", parts, link: null, start: 0, end: 0 });
}

function comment(catalog: Catalog, object: string, name: Name, text: string | null): void {
  const dialect = dialects[catalog.dialect];
  if (object === "column") {
    const parts = name.parts.slice(0, -1);
    if (parts.length === 0) return;
    const table = catalog.resolve({ ...name, parts });
    if (!table) return;
    const column = foldName(name.parts[name.parts.length - 1], dialect);
    const columns = table.columns.map((one) => (one.name === column ? { ...one, comment: text } : one));
    catalog.put({ ...table, columns });
    return;
  }
  const found = catalog.resolveRelation(name);
  if (found) catalog.put({ ...found, comment: text });
}

function switchTriggers(catalog: Catalog, names: readonly Name[] | null, table: Name | null, enabled: boolean): void {
  const dialect = dialects[catalog.dialect];
  const relation = table ? catalog.resolveRelation(table) : undefined;
  const wanted = names?.map((name) => foldName(name.parts[name.parts.length - 1], dialect));
  const triggers = relation
    ? catalog.triggersOf(tableKey(relation.schema, relation.name))
    : [...catalog.objects("trigger")];
  for (const trigger of triggers) {
    if (wanted && !wanted.includes(trigger.name)) continue;
    catalog.put({ ...trigger, enabled: enabled ? "origin" : "off" });
  }
}

function rename(catalog: Catalog, statement: RenameStatement): void {
  const dialect = dialects[catalog.dialect];
  for (const { from, to } of statement.renames) {
    const last = foldName(to.parts[to.parts.length - 1], dialect);
    if (statement.object === "trigger" || statement.object === "rule") {
      const name = foldName(from.parts[from.parts.length - 1], dialect);
      const relation = statement.table ? catalog.resolveRelation(statement.table) : undefined;
      if (!relation) continue;
      const key = tableKey(relation.schema, relation.name);
      const guards: (Trigger | Rule)[] = statement.object === "rule" ? catalog.rulesOf(key) : catalog.triggersOf(key);
      const guard = guards.find((one) => one.name === name);
      if (!guard) continue;
      catalog.remove(guard.object, Catalog.guardKey(guard));
      catalog.put({ ...guard, name: last });
      continue;
    }
    const relation = catalog.resolveRelation(from);
    if (relation) {
      const temporary = relation.object === "table" && relation.temporary;
      const schema = statement.schema
        ? last
        : to.parts.length > 1 || dialect.grammar.temporaryBesides
          ? catalog.place(to, temporary).schema
          : relation.schema;
      const own = relation.object === "table" && relation.written ? relation.written.slice(-1)[0] : relation.name;
      const written = statement.schema ? [to.parts[to.parts.length - 1].text, own] : spelledName(to, dialect);
      renameRelation(catalog, relation, schema, statement.schema ? relation.name : last, written);
      continue;
    }
    for (const kind of ["sequence", "routine", "type"] as const) {
      const key = catalog.keyOf(kind, from);
      const found = catalog.object(kind, key);
      if (!found) continue;
      catalog.remove(kind, key);
      catalog.put(statement.schema ? { ...found, schema: last } : { ...found, name: last });
    }
  }
}

/** Settings that change what names mean. */
function setting(catalog: Catalog, statement: SettingStatement): void {
  const dialect = dialects[catalog.dialect];
  const { defaultSchema } = dialect.grammar;
  if (statement.name === "all" && dialect.engine.searchPath) catalog.searchPath = [defaultSchema];
  else if (statement.name === "search_path" && dialect.engine.searchPath) {
    const path = statement.value
      .split(",")
      .map((part) => part.trim())
      .filter((part) => part !== "" && part !== '"$user"' && part !== "$user")
      .map((part) => (part.startsWith('"') || part.startsWith("'") ? part.slice(1, -1) : part.toLowerCase()));
    // A dump empties the path, and writes every name with its schema.
    const said = path.length > 0 && path[0] !== "default" ? path : [defaultSchema];
    if (statement.scope === "local") catalog.searchLocally(said);
    else catalog.searchPath = said;
  } else if (statement.name === "current_schema" || statement.name === "database") {
    const name: Ident = { text: statement.value, quoted: false, hole: false, start: 0, end: 0 };
    catalog.use(foldName(name, dialect));
  }
}
