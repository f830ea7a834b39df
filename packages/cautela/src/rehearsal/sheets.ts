import type { Change } from "../analysis/change.ts";
import type { FiredRipple, RippleEdge, RippleNode } from "../analysis/ripples/ripple.ts";
import { tableKey } from "../catalog/catalog.ts";
import type { Table } from "../catalog/model.ts";
import type { ChangeSource, StatementReview } from "../result.ts";
import { type AssignedText, type ChangeText, changeText } from "./change-text.ts";
import type { CopyNames } from "./copy-names.ts";
import { insertSheet } from "./insert-sheet.ts";
import type { Phase, RehearsalQuery, RehearsalSheet } from "./rehearsal.ts";
import { type SqlWriter, shownTable } from "./sql-writer.ts";

/** Rows that a preview shows at most. */
export const PREVIEW = 100;

/** The sheets of one statement: one for each table that it changes. */
export function sheetsOf(
  statement: StatementReview,
  source: ChangeSource,
  ripples: readonly FiredRipple[],
  writer: SqlWriter,
  names: CopyNames,
): RehearsalSheet[] {
  if (source.tree.kind === "insert" || source.tree.kind === "merge")
    return [insertSheet(statement, source, ripples, writer, names)];
  return source.changes.map((judged) => {
    const sheet = new Sheet(statement, judged.target, source, writer);
    const fired = ripples.filter(
      ({ firing }) => firing.change === judged.change || sameChange(firing.change, judged.change),
    );
    changeSheet(sheet, source, judged.change, fired, names);
    return sheet.done();
  });
}

/** Two readings of the same change: the ripple has its own. */
function sameChange(a: Change | null, b: Change): boolean {
  return a !== null && a.statement === b.statement && a.relation?.source === b.relation?.source;
}

/** A sheet in the making. */
export class Sheet {
  readonly writer: SqlWriter;
  readonly triggers: ChangeSource["triggers"];
  readonly #sheet: RehearsalSheet;

  constructor(statement: StatementReview, target: string, source: ChangeSource, writer: SqlWriter) {
    this.writer = writer;
    this.triggers = source.triggers;
    const { index, line, kind } = statement;
    this.#sheet = {
      statement: index,
      line,
      kind,
      target,
      queries: [],
      reasons: [],
      privileges: [],
      expected: source.expected,
    };
  }

  add(phase: Phase, purpose: RehearsalQuery["purpose"], title: string, sql: string): void {
    this.#sheet.queries.push({ phase, purpose, title, sql });
  }

  reason(text: string): void {
    if (!this.#sheet.reasons.includes(text)) this.#sheet.reasons.push(text);
  }

  get expected(): RehearsalSheet["expected"] {
    return this.#sheet.expected;
  }

  done(): RehearsalSheet {
    return this.#sheet;
  }
}

/** The key by which rows of a table are told apart, of columns that are not given new values. */
export function keyOf(table: Table, changed: readonly string[] = []): readonly string[] | null {
  for (const key of [table.primaryKey, ...table.uniqueKeys]) {
    if (!key || key.partial || key.columns.length === 0) continue;
    if (key.columns.some((column) => changed.includes(column))) continue;
    // A unique key may hold NULLs, which match nothing.
    if (
      key !== table.primaryKey &&
      key.columns.some((name) => !table.columns.find((one) => one.name === name)?.required)
    )
      continue;
    return key.columns;
  }
  return null;
}

function changeSheet(
  sheet: Sheet,
  source: ChangeSource,
  change: Change,
  fired: readonly FiredRipple[],
  names: CopyNames,
): void {
  const { writer } = sheet;
  const view = fired.find(({ ripple }) => ripple.nodes[0]?.object === "view");
  const table = (view && baseOf(view)) ?? change.table;
  if (source.tree.kind === "truncate") {
    if (!table) {
      sheet.reason("the table is not in the catalog, so its columns are not known");
      return;
    }
    truncateSheet(sheet, source, table, fired, names);
    return;
  }
  const text = changeText(source, change, writer.dialect);
  if (typeof text === "string") {
    sheet.reason(`no query was written: ${text}`);
    return;
  }
  // Through a view rows are told apart by the columns that it shows.
  const shownColumns = view?.ripple.nodes[0].relation?.columns?.map((one) =>
    typeof one === "string" ? one : one.name,
  );
  const ownKey = table ? keyOf(table) : null;
  const look = ownKey?.every((one) => shownColumns?.includes(one) ?? true) ? ownKey : null;
  count(sheet, text, table, look);
  if (source.tree.kind === "update") preview(sheet, text, table, look);
  else rows(sheet, text, look);
  warn(sheet, fired);
  if (!table) {
    sheet.reason(
      "the table is not in the catalog: without its key and columns neither figures nor a restore can be written",
    );
    sheet.add("before", "copy", "Keep the rows", copyOf(writer, names.next({ name: bareName(change) }), text));
    sheet.add("change", "change", "The change", source.text);
    return;
  }
  const changed = changedColumns(text, table, view);
  const key = keyOf(table, changed);
  const copies: Kept[] = [];
  const own = names.next(table);
  const whole = view !== undefined || text.unsettled;
  figures(sheet, "before", table, text.assignments, fired);
  if (!view) arithmetic(sheet, text, table, fired);
  sheet.add(
    "before",
    "copy",
    whole ? `Keep all rows of ${shownTable(table)}` : "Keep the rows that will change",
    whole ? writer.copy(own, "*", `FROM ${writer.table(table)}`) : copyOf(writer, own, text),
  );
  rippleCopies(sheet, fired, table, own, names, copies);
  if (view?.ripple.edges.some(({ from, how }) => from === 0 && how === "trigger")) {
    sheet.reason("a trigger writes in the view's place, and what the engine counts is not what that writes");
    sheet.add("change", "change", "The change", source.text);
  } else if (fired.some(({ ripple }) => ripple.notes.some(({ kind }) => kind === "swallows"))) {
    sheet.reason("a trigger or rule may drop rows in silence, so fewer may change than the count says");
    sheet.add("change", "change", "The change", source.text);
  } else guarded(sheet, source, text, table, look);
  afterCheck(sheet, source.tree.kind, table, key, own, changed, whole);
  figures(sheet, "after", table, text.assignments, fired);
  restore(sheet, source.tree.kind, table, key, own, copies, fired, changed);
}

/** The table behind a view that a change is passed on to. */
function baseOf({ ripple }: FiredRipple): Table | undefined {
  const to = ripple.edges
    .filter(({ how, from }) => how === "view" && ripple.nodes[from].object === "view")
    .map((edge) => ripple.nodes[edge.to].relation);
  for (const relation of to) if (relation?.object === "table") return relation;
  return undefined;
}

/** The columns of the table that are given values: under a view's own names they are other ones. */
function changedColumns(text: ChangeText, table: Table, view: FiredRipple | undefined): string[] {
  if (!view) return [...new Set(text.assignments.map(({ column }) => column))];
  const columns = new Set<string>();
  for (const { relation, columns: written } of view.ripple.nodes)
    if (relation === table) for (const column of written ?? []) columns.add(column);
  return [...columns];
}

function bareName({ name }: Change): string {
  return name.parts[name.parts.length - 1].text;
}

/** What a table's copy holds, and how it goes back. */
export interface Kept {
  table: Table;
  copy: string;
  how: "deleted" | "updated" | "added" | "whole";
}

// ---------------------------------------------------------------- before

function where(text: ChangeText): string {
  return text.where === null ? "" : `\nWHERE ${text.where}`;
}

function count(sheet: Sheet, text: ChangeText, table: Table | undefined, key: readonly string[] | null): void {
  const { writer } = sheet;
  const sql = countSql(writer, text, key, true);
  if (sql === null) {
    sheet.reason(
      "a row can be met several times by the join, and without a key they cannot be told apart: no count was written",
    );
    return;
  }
  sheet.add("before", "count", "How many rows it touches", sql);
  const changing = changingSql(writer, text, table, true);
  if (changing !== null) sheet.add("before", "count", "How many of them really change", changing);
}

/** The query that counts the rows; null where it cannot be written. `capped`: it may stop where the writer is told to. */
function countSql(writer: SqlWriter, text: ChangeText, key: readonly string[] | null, capped = false): string | null {
  const rest = `FROM ${text.from}${where(text)}${text.tail}`;
  if (!text.joined && text.tail === "") return `${text.head}${writer.count("rows_touched", rest, capped)}`;
  if (text.unsettled && writer.dialect.id === "tsql") return null;
  if (text.joined && !key) return null;
  const one = text.joined && key ? `DISTINCT ${writer.columns(text.ref, key)}` : "1 AS one";
  return `${text.head}${writer.count("rows_touched", `FROM (SELECT ${one} ${rest})${writer.as("touched")}`, capped)}`;
}

/** The query that counts the rows whose values really change; null where they cannot be told beforehand. */
function changingSql(writer: SqlWriter, text: ChangeText, table: Table | undefined, capped = false): string | null {
  const differing = differences(writer, text, table);
  if (differing === null || text.joined || text.tail !== "") return null;
  const also = text.where === null ? "" : `(${text.where})\n  AND `;
  return `${text.head}${writer.count("rows_changed", `FROM ${text.from}\nWHERE ${also}(${differing})`, capped)}`;
}

/** The condition under which at least one value really changes; null where a value cannot be written out. */
function differences(writer: SqlWriter, text: ChangeText, table: Table | undefined): string | null {
  if (text.assignments.length === 0) return null;
  const parts: string[] = [];
  for (const { column, value, assignment } of text.assignments) {
    if (value === "" || (assignment.value.kind === "literal" && assignment.value.type === "default")) return null;
    const known = table?.columns.find(({ name }) => name === column);
    parts.push(writer.differs(`${text.ref}.${writer.name(column)}`, writer.stored(`(${value})`, known)));
  }
  return parts.join(" OR ");
}

function preview(sheet: Sheet, text: ChangeText, table: Table | undefined, look: readonly string[] | null): void {
  const { writer } = sheet;
  const key = look ?? [];
  const columns: string[] = key.map((one) => `${text.ref}.${writer.name(one)}`);
  const before: string[] = [];
  const ordered = writer.dialect.id === "mysql" || writer.dialect.id === "mariadb";
  let shown = 0;
  for (const { column, value, assignment } of text.assignments) {
    const name = writer.name(column);
    if (value === "")
      sheet.reason(`the new value of ${column} comes from a query of several columns, and is not shown`);
    else if (assignment.value.kind === "literal" && assignment.value.type === "default")
      sheet.reason(`${column} takes its default, which is not shown`);
    else if (ordered && before.some((one) => mentions(value, one)))
      sheet.reason(`the new value of ${column} is made from another one that is set before it, and is not shown`);
    else {
      const known = table?.columns.find((one) => one.name === column);
      columns.push(`${text.ref}.${name} AS ${writer.name(`old_${column.toLowerCase()}`)}`);
      columns.push(`${writer.stored(`(${value})`, known)} AS ${writer.name(`new_${column.toLowerCase()}`)}`);
      shown++;
    }
    before.push(column);
  }
  if (shown === 0) return;
  if (text.joined)
    sheet.reason(
      "a row that the join meets several times stands in the preview as often, and only one of its new values is written",
    );
  if (text.unsettled)
    sheet.reason(
      "it takes some of the rows, and without an order nobody can say which: the preview shows all that it may take",
    );
  const tail =
    text.tail !== "" && !text.unsettled
      ? text.tail
      : key.length > 0
        ? `\nORDER BY ${writer.columns(text.ref, key)}`
        : "";
  const rest = `FROM ${text.from}${where(text)}${tail}`;
  const limited = /\nLIMIT /.test(tail);
  const body = limited
    ? `SELECT ${columns.join(",\n       ")}\n${rest}`
    : writer.first(PREVIEW, columns.join(",\n       "), rest);
  sheet.add("before", "preview", "Old and new values side by side", `${text.head}${body}`);
}

function rows(sheet: Sheet, text: ChangeText, key: readonly string[] | null): void {
  const { writer } = sheet;
  const order =
    text.tail !== "" && !text.unsettled ? text.tail : key ? `\nORDER BY ${writer.columns(text.ref, key)}` : "";
  const list = `${text.joined ? "DISTINCT " : ""}${text.ref}.*`;
  const rest = `FROM ${text.from}${where(text)}${order}`;
  sheet.add(
    "before",
    "preview",
    "The rows that go",
    `${text.head}${/\nLIMIT /.test(order) ? `SELECT ${list}\n${rest}` : writer.first(PREVIEW, list, rest)}`,
  );
}

function copyOf(writer: SqlWriter, name: string, text: ChangeText): string {
  return writer.copy(
    name,
    `${text.joined ? "DISTINCT " : ""}${text.ref}.*`,
    `FROM ${text.from}${where(text)}${text.unsettled ? "" : text.tail}`,
    text.head,
  );
}

const NUMERIC =
  /^(?:numeric|decimal|number|integer|int|bigint|smallint|tinyint|double|double precision|real|float|money|currency|long|single)$/;

/** Figures that are compared before and after: rows, and the sums of numbers that change. */
function figures(
  sheet: Sheet,
  phase: "before" | "after",
  table: Table,
  assignments: readonly AssignedText[],
  fired: readonly FiredRipple[],
): void {
  const { writer } = sheet;
  const sums = assignments
    .filter(({ column }) => NUMERIC.test(table.columns.find(({ name }) => name === column)?.type ?? ""))
    .map(({ column }) => `, SUM(${writer.name(column)}) AS ${writer.name(`sum_${column.toLowerCase()}`)}`);
  sheet.add(
    phase,
    "figure",
    `Control figures of ${shownTable(table)}`,
    `SELECT COUNT(*) AS all_rows${[...new Set(sums)].join("")}\nFROM ${writer.table(table)}`,
  );
  for (const other of touchedTables(fired, table))
    sheet.add(
      phase,
      "figure",
      `Control figures of ${shownTable(other)}`,
      `SELECT COUNT(*) AS all_rows\nFROM ${writer.table(other)}`,
    );
}

/** What the control figures should be afterwards, worked out from the change itself. */
function arithmetic(sheet: Sheet, text: ChangeText, table: Table, fired: readonly FiredRipple[]): void {
  const { writer } = sheet;
  if (text.joined || text.tail !== "" || text.unsettled) return;
  // A trigger that changes the row, drops it, or changes the table again has an arithmetic of its own.
  const disturbed = fired.some(
    ({ ripple }) =>
      ripple.notes.some(({ kind }) => kind === "rewrites" || kind === "swallows" || kind === "opaque") ||
      ripple.nodes.some(({ id, relation }) => id !== 0 && relation === table),
  );
  if (disturbed) return;
  const met = text.where ?? "1 = 1";
  const columns: string[] = [];
  if (text.assignments.length === 0) columns.push(`COUNT(*) - SUM(${writer.either(met, "1", "0")}) AS expected_rows`);
  for (const { column, value, assignment } of text.assignments) {
    const known = table.columns.find(({ name }) => name === column);
    const plain = value !== "" && !(assignment.value.kind === "literal" && assignment.value.type === "default");
    if (!known || !NUMERIC.test(known.type) || !plain) continue;
    const own = `${text.ref}.${writer.name(column)}`;
    columns.push(
      `SUM(${writer.either(met, writer.stored(`(${value})`, known), own)}) AS ${writer.name(`expected_sum_${column.toLowerCase()}`)}`,
    );
  }
  if (columns.length > 0)
    sheet.add(
      "before",
      "figure",
      "What the figures should be afterwards",
      `${text.head}SELECT ${columns.join(", ")}\nFROM ${text.from}`,
    );
}

function touchedTables(fired: readonly FiredRipple[], own: Table): Table[] {
  const tables = new Set<Table>();
  for (const { ripple } of fired)
    for (const { written, relation } of ripple.nodes)
      if (written && relation?.object === "table" && relation !== own) tables.add(relation);
  return [...tables];
}

/** What a ripple may do that the queries do not show. */
export function warn(sheet: Sheet, fired: readonly FiredRipple[]): void {
  for (const { ripple } of fired) {
    for (const { kind, name, text } of ripple.notes) {
      if (kind === "rewrites" || kind === "stamps")
        sheet.reason(`${text.replaceAll("`", "")}: the preview shows what the statement sets`);
      if (kind === "opaque")
        sheet.reason(`what ${name} does is not known (${text}), so the copies may not hold all that it changes`);
      if (kind === "sealed") sheet.reason(`the engine refuses this: ${text}`);
    }
  }
}

/** Copies of the tables that views, triggers and keys write besides. */
export function rippleCopies(
  sheet: Sheet,
  fired: readonly FiredRipple[],
  own: Table,
  ownCopy: string | null,
  names: CopyNames,
  kept: Kept[],
): void {
  const { writer } = sheet;
  for (const { ripple } of fired) {
    const seen = new Map<Table, RippleNode[]>();
    for (const node of ripple.nodes) {
      const table = node.written && node.relation?.object === "table" ? node.relation : null;
      if (!table || table === own || ripple.edges.some((edge) => edge.to === node.id && edge.how === "partition"))
        continue;
      seen.set(table, [...(seen.get(table) ?? []), node]);
    }
    for (const [table, nodes] of seen) {
      if (kept.some((one) => one.table === table)) continue;
      const copy = names.next(table);
      const key = keyOf(table);
      const added = nodes.every(({ action }) => action === "insert");
      const cascade = added || nodes.length > 1 ? null : directCascade(nodes[0], ripple.edges, own, table);
      const shown = shownTable(table);
      if (added && key) {
        kept.push({ table, copy, how: "added" });
        sheet.add(
          "before",
          "copy",
          `Note which rows ${shown} holds`,
          writer.copy(copy, writer.names(key), `FROM ${writer.table(table)}`),
        );
      } else if (cascade && ownCopy !== null) {
        kept.push({ table, copy, how: cascade.deletes ? "deleted" : "updated" });
        sheet.add(
          "before",
          "copy",
          `Keep the rows of ${shown} that hang on them`,
          writer.copy(
            copy,
            "c.*",
            `FROM ${writer.table(table)}${writer.as("c")}\nWHERE EXISTS (SELECT 1 FROM ${writer.name(ownCopy)}${writer.as("p")} WHERE ${cascade.on.map(([child, parent]) => `p.${writer.name(parent)} = c.${writer.name(child)}`).join(" AND ")})`,
          ),
        );
      } else {
        kept.push({ table, copy, how: "whole" });
        sheet.add(
          "before",
          "copy",
          `Keep ${shown}, of which rows change as well`,
          writer.copy(copy, "*", `FROM ${writer.table(table)}`),
        );
      }
    }
  }
}

/** The columns by which a table hangs on the changed one, when a key of its own carries the change to it directly. */
function directCascade(
  node: RippleNode,
  edges: readonly RippleEdge[],
  own: Table,
  table: Table,
): { on: [string, string][]; deletes: boolean } | null {
  const incoming = edges.filter((edge) => edge.to === node.id);
  if (incoming.length !== 1 || incoming[0].how !== "cascade" || incoming[0].from !== 0) return null;
  const foreign = table.foreignKeys.find(
    (one) =>
      one.table === tableKey(own.schema, own.name) &&
      (one.name ?? `${table.name}(${one.columns.join(", ")})`) === incoming[0].name,
  );
  const referenced = foreign && foreign.referenced.length > 0 ? foreign.referenced : (own.primaryKey?.columns ?? []);
  if (!foreign || referenced.length !== foreign.columns.length) return null;
  // Rows that hang on these rows in turn are met through copies of whole tables.
  return { on: foreign.columns.map((column, i) => [column, referenced[i]]), deletes: node.action === "delete" };
}

function truncateSheet(
  sheet: Sheet,
  source: ChangeSource,
  table: Table,
  fired: readonly FiredRipple[],
  names: CopyNames,
): void {
  const { writer } = sheet;
  const own = names.next(table);
  const kept: Kept[] = [];
  sheet.add(
    "before",
    "count",
    "How many rows it touches",
    `SELECT COUNT(*) AS rows_touched\nFROM ${writer.table(table)}`,
  );
  sheet.add(
    "before",
    "copy",
    `Keep all rows of ${shownTable(table)}`,
    writer.copy(own, "*", `FROM ${writer.table(table)}`),
  );
  rippleCopies(sheet, fired, table, null, names, kept);
  warn(sheet, fired);
  sheet.add("change", "change", "The change", source.text);
  sheet.add("after", "check", "No row is left", `SELECT COUNT(*) AS still_there\nFROM ${writer.table(table)}`);
  restore(sheet, "truncate", table, keyOf(table), own, kept, fired, []);
}

// ---------------------------------------------------------------- change and after

function guarded(
  sheet: Sheet,
  source: ChangeSource,
  text: ChangeText,
  table: Table,
  look: readonly string[] | null,
): void {
  const { writer } = sheet;
  const query = countSql(writer, text, look);
  const exact =
    sheet.expected && !sheet.expected.atMost ? String(sheet.expected.rows) : query === null ? null : `(${query})`;
  if (writer.dialect.id === "mariadb" && source.tree.kind === "update") {
    // ROW_COUNT() leaves out rows whose values stay the same.
    const changing = changingSql(writer, text, table);
    const changed = changing === null ? null : `(${changing})`;
    if (changed === null) {
      sheet.add("change", "change", "The change", source.text);
      sheet.reason(
        "ROW_COUNT() counts rows whose values really change, which cannot be told beforehand here: compare it by hand",
      );
      return;
    }
    sheet.add(
      "change",
      "guarded",
      "The change, rolled back at another number of rows",
      writer.guarded(source.text, exact ?? changed, shownTable(table), changed) ?? source.text,
    );
    return;
  }
  const form = exact === null ? null : writer.guarded(source.text, exact, shownTable(table));
  if (form) sheet.add("change", "guarded", "The change, rolled back at another number of rows", form);
  else {
    sheet.add("change", "change", "The change", source.text);
    if (exact !== null)
      sheet.reason(
        `${writer.dialect.title} has no assertion outside of routines: compare the number of rows by hand before COMMIT`,
      );
  }
}

function afterCheck(
  sheet: Sheet,
  kind: string,
  table: Table,
  key: readonly string[] | null,
  copy: string,
  columns: readonly string[],
  whole: boolean,
): void {
  const { writer } = sheet;
  if (!key) return;
  const target = writer.table(table);
  const copied = `${writer.name(copy)}${writer.as("b")}`;
  if (kind === "delete" && whole) {
    sheet.add(
      "after",
      "check",
      "The rows that are gone",
      writer.first(
        PREVIEW,
        "b.*",
        `FROM ${copied}\nWHERE NOT EXISTS (SELECT 1 FROM ${target}${writer.as("t")} WHERE ${writer.match("b", "t", key)})\nORDER BY ${writer.columns("b", key)}`,
      ),
    );
    return;
  }
  if (kind === "delete") {
    sheet.add(
      "after",
      "check",
      "None of the rows is left (0 is right)",
      `SELECT COUNT(*) AS still_there\nFROM ${target}${writer.as("t")}\nWHERE EXISTS (SELECT 1 FROM ${writer.name(copy)}${writer.as("b")} WHERE ${writer.match("b", "t", key)})`,
    );
    return;
  }
  if (columns.length === 0) return;
  const differing = whole
    ? `\nWHERE ${columns.map((one) => writer.differs(`b.${writer.name(one)}`, `t.${writer.name(one)}`)).join(" OR ")}`
    : "";
  const list = [
    writer.columns("b", key),
    ...columns.flatMap((one) => [
      `b.${writer.name(one)} AS ${writer.name(`was_${one.toLowerCase()}`)}`,
      `t.${writer.name(one)} AS ${writer.name(`is_${one.toLowerCase()}`)}`,
    ]),
  ].join(",\n       ");
  sheet.add(
    "after",
    "check",
    "Before and now, row by row",
    writer.first(
      PREVIEW,
      list,
      `FROM ${copied}\nLEFT JOIN ${target}${writer.as("t")} ON ${writer.match("t", "b", key)}${differing}\nORDER BY ${writer.columns("b", key)}`,
    ),
  );
}

// ---------------------------------------------------------------- restore

function restore(
  sheet: Sheet,
  kind: string,
  table: Table,
  key: readonly string[] | null,
  copy: string,
  kept: readonly Kept[],
  fired: readonly FiredRipple[],
  changed: readonly string[],
): void {
  const { writer } = sheet;
  const own: string[] = [];
  const wholeCopy = fired.some(({ ripple }) => ripple.nodes[0]?.object === "view");
  if (kind === "update") {
    if (!key) {
      sheet.reason(
        "the key of its rows changes and they have no other one: which row was which cannot be told afterwards, so no restore was written",
      );
      return;
    }
    const columns = writer.writable(table).filter((column) => !key.includes(column));
    const touched = touchedColumns(table, changed, fired);
    own.push(writer.setBack(table, copy, key, touched ? columns.filter((column) => touched.has(column)) : columns));
  } else if (wholeCopy && key) own.push(...writer.putBack(table, copy, key));
  else if (wholeCopy)
    sheet.reason(
      "rows of the view's table have no key, so those that are missing cannot be told: no restore was written",
    );
  else own.push(...writer.putBack(table, copy, null));
  putTogether(sheet, table, own, kept);
}

/** The columns of a table that a change gives other values, triggers and the engine included; null where it may be any. */
function touchedColumns(table: Table, changed: readonly string[], fired: readonly FiredRipple[]): Set<string> | null {
  const touched = new Set(changed);
  for (const { ripple } of fired) {
    for (const node of ripple.nodes) {
      if (node.relation !== table) continue;
      // A trigger that changes the table again.
      if (node.id !== 0 && node.columns === null) return null;
      for (const column of node.columns ?? []) touched.add(column);
    }
    for (const { kind, node, columns } of ripple.notes)
      if ((kind === "rewrites" || kind === "stamps") && ripple.nodes[node].relation === table)
        for (const column of columns) touched.add(column);
  }
  return touched;
}

/** The statements of a restore in their order, with triggers off where the engine can do that. */
export function putTogether(sheet: Sheet, table: Table, own: readonly string[], kept: readonly Kept[]): void {
  const { writer } = sheet;
  if (own.length === 0) return;
  const steps: string[] = [];
  const guarded = [table, ...kept.map((one) => one.table)].flatMap((one) => {
    const own = sheet.triggers.get(one)?.filter(({ timing }) => timing !== "instead") ?? [];
    return own.length > 0 ? [{ table: one, triggers: own }] : [];
  });
  for (const one of guarded) steps.push(...writer.triggers(one.table, one.triggers, false));
  steps.push(...own);
  for (const one of kept) steps.push(...keptBack(sheet, one));
  for (const one of guarded) steps.push(...writer.triggers(one.table, one.triggers, true));
  if (guarded.length > 0 && /^(?:sqlite|mysql|mariadb)$/.test(writer.dialect.id))
    sheet.reason(
      `${writer.dialect.title} cannot switch triggers off: the restore takes them away and makes them anew, so nobody else should be at work then`,
    );
  for (const [i, step] of steps.entries())
    sheet.add("restore", "restore", i === 0 ? `Put ${shownTable(table)} back as it was` : `Step ${i + 1}`, step);
}

function keptBack(sheet: Sheet, { table, copy, how }: Kept): string[] {
  const { writer } = sheet;
  const key = keyOf(table);
  const shown = shownTable(table);
  switch (how) {
    case "added":
      return key ? [writer.removeNew(table, copy, key)] : [];
    case "deleted":
      return writer.putBack(table, copy, key);
    case "updated":
    case "whole": {
      if (!key) {
        if (how === "whole") return [`DELETE FROM ${writer.table(table)}`, ...writer.putBack(table, copy, null)];
        sheet.reason(`rows of ${shown} have no key, so they cannot be put back one by one`);
        return [];
      }
      const columns = writer.writable(table).filter((column) => !key.includes(column));
      const steps = how === "whole" ? [writer.removeNew(table, copy, key)] : [];
      if (columns.length > 0) steps.push(writer.setBack(table, copy, key, columns));
      if (how === "whole") steps.push(...writer.putBack(table, copy, key));
      return steps;
    }
  }
}

function mentions(value: string, column: string): boolean {
  return new RegExp(`(?:^|[^\\w])${column.replace(/[^\w]/g, "\\$&")}(?:$|[^\\w])`, "i").test(value);
}
