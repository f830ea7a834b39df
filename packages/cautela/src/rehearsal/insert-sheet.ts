import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import { shownName, type Table } from "../catalog/model.ts";
import { foldName } from "../catalog/names.ts";
import type { ChangeSource, StatementReview } from "../result.ts";
import type { Span } from "../sql/tree.ts";
import { rippleCopies } from "./copies.ts";
import type { CopyNames } from "./copy-names.ts";
import { warn } from "./looks.ts";
import type { RehearsalSheet } from "./rehearsal.ts";
import { putTogether } from "./restore.ts";
import { type Kept, keyOf, PREVIEW, Sheet } from "./sheet.ts";
import type { SqlWriter } from "./sql-writer.ts";

/** The sheet of an INSERT, a REPLACE, an upsert or a MERGE. */
export function insertSheet(
  statement: StatementReview,
  source: ChangeSource,
  ripples: readonly FiredRipple[],
  writer: SqlWriter,
  names: CopyNames,
): RehearsalSheet {
  const sheet = new Sheet(statement, statement.target ?? "", source, writer);
  const table = source.into?.object === "table" ? source.into : null;
  const { tree } = source;
  if (tree.kind === "insert") rowsOf(sheet, source, table);
  else
    sheet.reason(
      "which branch of MERGE takes a row hangs on both tables: no preview was written, the copy is compared afterwards",
    );
  warn(sheet, ripples);
  if (!table) {
    sheet.reason(
      source.into
        ? "it writes through a view: look at the table behind it"
        : "the table is not in the catalog, so no copy was written",
    );
    sheet.add("change", "change", "The change", source.text);
    return sheet.done();
  }
  const key = keyOf(table);
  const overwrites =
    tree.kind === "merge" ||
    (tree.kind === "insert" &&
      (tree.replace || tree.conflicts.some(({ action }) => action === "update" || action === "replace")));
  const own = names.next(table);
  const kept: Kept[] = [];
  sheet.add(
    "before",
    "figure",
    `Control figures of ${shownName(table)}`,
    `SELECT COUNT(*) AS all_rows\nFROM ${writer.table(table)}`,
  );
  if (overwrites || !key)
    sheet.add(
      "before",
      "copy",
      `Keep all rows of ${shownName(table)}`,
      writer.copy(own, "*", `FROM ${writer.table(table)}`),
    );
  else
    sheet.add(
      "before",
      "copy",
      `Note which rows ${shownName(table)} holds`,
      writer.copy(own, writer.names(key), `FROM ${writer.table(table)}`),
    );
  rippleCopies(sheet, ripples, table, null, names, kept);
  change(sheet, source, table, overwrites);
  sheet.add(
    "after",
    "figure",
    `Control figures of ${shownName(table)}`,
    `SELECT COUNT(*) AS all_rows\nFROM ${writer.table(table)}`,
  );
  if (key)
    sheet.add(
      "after",
      "check",
      "The rows that have come",
      writer.first(
        PREVIEW,
        "t.*",
        `FROM ${writer.table(table)}${writer.as("t")}\nWHERE NOT EXISTS (SELECT 1 FROM ${writer.name(own)}${writer.as("b")} WHERE ${writer.match("b", "t", key)})\nORDER BY ${writer.columns("t", key)}`,
      ),
    );
  const steps = !key
    ? [`DELETE FROM ${writer.table(table)}`, ...writer.putBack(table, own, null)]
    : overwrites
      ? [writer.removeNew(table, own, key), ...setBack(writer, table, own, key), ...writer.putBack(table, own, key)]
      : [writer.removeNew(table, own, key)];
  putTogether(sheet, table, steps, kept);
  return sheet.done();
}

function setBack(writer: SqlWriter, table: Table, own: string, key: readonly string[]): string[] {
  const columns = writer.writable(table).filter((column) => !key.includes(column));
  return columns.length > 0 ? [writer.setBack(table, own, key, columns)] : [];
}

/** The rows that come, and those that meet one that is there. */
function rowsOf(sheet: Sheet, source: ChangeSource, table: Table | null): void {
  const { writer } = sheet;
  const { tree, text, start } = source;
  if (tree.kind !== "insert") return;
  const cut = (span: Span): string => text.slice(span.start - start, span.end - start);
  if (!tree.source) {
    if (!tree.set && !tree.defaults) sheet.reason("its rows come from a procedure");
    return;
  }
  const clauses = [tree.with, tree.source.with];
  if (clauses.some((clause) => clause?.tables.some(({ body }) => body.kind !== "query"))) {
    sheet.reason("its rows come from a WITH that changes rows itself, so they cannot be looked at beforehand");
    return;
  }
  const query = `${tree.with ? `${/^with\b/i.test(cut(tree.with)) ? "" : "WITH "}${cut(tree.with)}\n` : ""}${cut(tree.source)}`;
  const { body } = tree.source;
  if (
    body.kind === "values" &&
    (writer.dialect.id === "plsql" || writer.dialect.id === "jet" || writer.dialect.id === "tsql")
  ) {
    sheet.reason("its rows are written out in the statement itself");
  } else if (body.kind === "values") {
    if (body.rows.some((row) => row.some((value) => value.kind === "literal" && value.type === "default")))
      sheet.reason("DEFAULT stands among its values, so they cannot be shown as a query");
    else if (writer.dialect.id === "mysql") sheet.reason("its rows are written out in the statement itself");
    else
      sheet.add(
        "before",
        "preview",
        "The rows that come",
        writer.dialect.id === "mariadb" ? query : `SELECT * FROM (${query})${writer.as("rows_to_come")}`,
      );
  } else {
    sheet.add(
      "before",
      "count",
      "How many rows come",
      `SELECT COUNT(*) AS rows_to_come\nFROM (${query})${writer.as("rows_to_come")}`,
    );
    sheet.add(
      "before",
      "preview",
      "The rows that come",
      writer.first(PREVIEW, "*", `FROM (${query})${writer.as("rows_to_come")}`),
    );
  }
  const key = table ? keyOf(table) : null;
  const columns =
    tree.columns?.map((one) => foldName(one.parts[one.parts.length - 1], writer.dialect)) ??
    table?.columns.map(({ name }) => name) ??
    null;
  if (!table || !key || !columns || key.some((one) => !columns.includes(one))) return;
  if (body.kind === "values" && writer.dialect.id !== "postgresql" && writer.dialect.id !== "sqlite") return;
  if (
    body.kind === "values" &&
    body.rows.some((row) => row.some((value) => value.kind === "literal" && value.type === "default"))
  )
    return;
  if (writer.dialect.id === "jet") return;
  sheet.add(
    "before",
    "preview",
    "Rows that are there already under the same key",
    `WITH rows_to_come (${writer.names(columns)}) AS (\n${query}\n)\n${writer.first(PREVIEW, "t.*", `FROM ${writer.table(table)}${writer.as("t")}\nINNER JOIN rows_to_come r ON ${writer.match("r", "t", key)}`)}`,
  );
}

function change(sheet: Sheet, source: ChangeSource, table: Table, overwrites: boolean): void {
  const { writer } = sheet;
  const { expected } = sheet;
  const form =
    expected && !expected.atMost && !overwrites
      ? writer.guarded(source.text, String(expected.rows), shownName(table))
      : null;
  if (form) sheet.add("change", "guarded", "The change, rolled back at another number of rows", form);
  else sheet.add("change", "change", "The change", source.text);
}
