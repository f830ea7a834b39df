import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import { columnNamed } from "../catalog/columns.ts";
import { type Column, shownName, type Table } from "../catalog/model.ts";
import { wordIn } from "../text/word-in.ts";
import type { AssignedText, ChangeText } from "../writing/change-text.ts";
import type { SqlWriter } from "../writing/writer.ts";
import { PREVIEW, type Sheet } from "./sheet.ts";

// What is run before a change and only reads: counts, previews, control figures.

export function where(text: ChangeText): string {
  return text.where === null ? "" : `\nWHERE ${text.where}`;
}

export function count(sheet: Sheet, text: ChangeText, table: Table | undefined, key: readonly string[] | null): void {
  const { writer } = sheet;
  const sql = countSql(writer, text, table, key, true);
  if (sql === null) {
    sheet.reason(
      "a row can be met several times by the join, and without a key they cannot be told apart: no count was written",
    );
    return;
  }
  sheet.add(sheet.early, "count", "How many rows it touches", sql);
  const changing = changingSql(writer, text, table, null, true);
  if (changing !== null) sheet.add(sheet.early, "count", "How many of them really change", changing);
}

/** The query that counts the rows; null where it cannot be written. `capped`: it may stop where the writer is told to. */
export function countSql(
  writer: SqlWriter,
  text: ChangeText,
  table: Table | undefined,
  key: readonly string[] | null,
  capped = false,
): string | null {
  const rest = `FROM ${text.from}${where(text)}${text.tail}`;
  if (!text.joined && text.tail === "" && !text.limited)
    return `${text.head}${writer.count("rows_touched", rest, capped)}`;
  if (text.limited && !writer.limits) return null;
  if (text.joined && !key) return null;
  const one = text.joined && key ? `DISTINCT ${writer.columns(text.ref, table, key)}` : "1 AS one";
  return `${text.head}${writer.count("rows_touched", `FROM (SELECT ${one} ${rest})${writer.as("touched")}`, capped)}`;
}

/**
 * The query that counts the rows whose values really change; null where they cannot be told beforehand. With a `key` rows
 * that a join meets several times are counted once.
 */
export function changingSql(
  writer: SqlWriter,
  text: ChangeText,
  table: Table | undefined,
  key: readonly string[] | null,
  capped = false,
): string | null {
  const differing = differences(writer, text, table);
  if (differing === null || (text.joined && !key) || text.tail !== "" || text.limited) return null;
  const also = text.where === null ? "" : `(${text.where})\n  AND `;
  const rest = `FROM ${text.from}\nWHERE ${also}(${differing})`;
  if (!text.joined || !key) return `${text.head}${writer.count("rows_changed", rest, capped)}`;
  const keys = `FROM (SELECT DISTINCT ${writer.columns(text.ref, table, key)} ${rest})${writer.as("touched")}`;
  return `${text.head}${writer.count("rows_changed", keys, capped)}`;
}

/** The condition under which at least one value really changes; null where a value cannot be written out. */
function differences(writer: SqlWriter, text: ChangeText, table: Table | undefined): string | null {
  if (text.assignments.length === 0) return null;
  const parts: string[] = [];
  for (const { column, written, value, assignment } of text.assignments) {
    if (value === "" || (assignment.value.kind === "literal" && assignment.value.type === "default")) return null;
    const known = columnNamed(table, column);
    if (known && !writer.equatable(known)) return null;
    parts.push(
      writer.givenDiffers(
        `${text.ref}.${table ? writer.column(table, column) : written}`,
        writer.stored(`(${value})`, known),
        known,
      ),
    );
  }
  return parts.join(" OR ");
}

export function preview(
  sheet: Sheet,
  text: ChangeText,
  table: Table | undefined,
  look: readonly string[] | null,
): void {
  const { writer } = sheet;
  const key = look ?? [];
  const columns: string[] = key.map((one) => `${text.ref}.${writer.column(table, one)}`);
  const before: string[] = [];
  const ordered = writer.assignsInOrder;
  let shown = 0;
  for (const { column, written, value, assignment } of text.assignments) {
    const name = table ? writer.column(table, column) : written;
    if (value === "")
      sheet.reason(`the new value of ${column} comes from a query of several columns, and is not shown`);
    else if (assignment.value.kind === "literal" && assignment.value.type === "default")
      sheet.reason(`${column} takes its default, which is not shown`);
    else if (ordered && before.some((one) => wordIn(value, one)))
      sheet.reason(`the new value of ${column} is made from another one that is set before it, and is not shown`);
    else {
      const known = columnNamed(table, column);
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
  if (text.movingValue)
    sheet.reason("a new value depends on the clock or on chance: the preview shows another one than will be written");
  const tail =
    text.tail !== "" ? text.tail : key.length > 0 ? `\nORDER BY ${writer.columns(text.ref, table, key)}` : "";
  const rest = `FROM ${text.from}${where(text)}${tail}`;
  const limited = /\nLIMIT /.test(tail);
  const body = limited
    ? `SELECT ${columns.join(",\n       ")}\n${rest}`
    : writer.first(PREVIEW, columns.join(",\n       "), rest);
  sheet.add(sheet.early, "preview", "Old and new values side by side", `${text.head}${body}`);
}

export function rows(sheet: Sheet, text: ChangeText, table: Table | undefined, key: readonly string[] | null): void {
  const { writer } = sheet;
  const order = text.tail !== "" ? text.tail : key ? `\nORDER BY ${writer.columns(text.ref, table, key)}` : "";
  const list = `${text.ref}.*`;
  const rest = `FROM ${text.from}${where(text)}${order}`;
  if (text.joined) sheet.reason("a row that the join meets several times stands in the preview as often");
  sheet.add(
    sheet.early,
    "preview",
    "The rows that go",
    `${text.head}${/\nLIMIT /.test(order) ? `SELECT ${list}\n${rest}` : writer.first(PREVIEW, list, rest)}`,
  );
}

const NUMERIC =
  /^(?:numeric|decimal|number|integer|int|bigint|smallint|tinyint|double|double precision|real|float|money|currency|long|single)$/;

function summable(column: Column | undefined): boolean {
  return column !== undefined && !column.array && NUMERIC.test(column.type);
}

/** Figures that are compared before and after: rows, and the sums of numbers that change. */
export function figures(
  sheet: Sheet,
  phase: "before" | "change" | "after",
  table: Table,
  assignments: readonly AssignedText[],
  others: readonly Table[],
): void {
  const { writer } = sheet;
  const sums = assignments
    .filter(({ column }) => summable(columnNamed(table, column)))
    .map(({ column }) => `, SUM(${writer.column(table, column)}) AS ${writer.name(`sum_${column.toLowerCase()}`)}`);
  sheet.add(
    phase,
    "figure",
    `Control figures of ${shownName(table)}`,
    `SELECT COUNT(*) AS all_rows${[...new Set(sums)].join("")}\nFROM ${writer.table(table)}`,
  );
  for (const other of others)
    if (other !== table)
      sheet.add(
        phase,
        "figure",
        `Control figures of ${shownName(other)}`,
        `SELECT COUNT(*) AS all_rows\nFROM ${writer.table(other)}`,
      );
}

/** What the control figures should be afterwards, worked out from the change itself. */
export function arithmetic(sheet: Sheet, text: ChangeText, table: Table, fired: readonly FiredRipple[]): void {
  const { writer } = sheet;
  // The figures of the table are those of the tables that inherit from it too.
  if (text.joined || text.tail !== "" || text.limited || text.unsettled || text.movingValue || text.only) return;
  // A trigger that changes the row, drops it, or changes the table again has an arithmetic of its own.
  const disturbed = fired.some(
    ({ ripple }) =>
      ripple.notes.some(({ kind }) => kind === "rewrites" || kind === "swallows" || kind === "opaque") ||
      ripple.nodes.some(({ id, relation }) => id !== 0 && relation === table),
  );
  if (disturbed) return;
  /** A value for the rows that are met, and another for the rest. */
  const split = (yes: string, no: string): string => (text.where === null ? yes : writer.either(text.where, yes, no));
  const columns: string[] = [];
  if (text.deletes) columns.push(`COUNT(*) - SUM(${split("1", "0")}) AS expected_rows`);
  for (const { column, value, assignment } of text.assignments) {
    const known = columnNamed(table, column);
    const plain = value !== "" && !(assignment.value.kind === "literal" && assignment.value.type === "default");
    if (!known || !summable(known) || !plain) continue;
    const sum = split(writer.stored(`(${value})`, known), `${text.ref}.${writer.column(table, column)}`);
    columns.push(`SUM(${sum}) AS ${writer.name(`expected_sum_${column.toLowerCase()}`)}`);
  }
  if (columns.length > 0)
    sheet.add(
      "before",
      "figure",
      "What the figures should be afterwards",
      `${text.head}SELECT ${columns.join(", ")}\nFROM ${text.from}`,
    );
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
