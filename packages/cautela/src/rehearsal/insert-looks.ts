import type { Table } from "../catalog/model.ts";
import { foldName } from "../catalog/names.ts";
import type { ChangeSource } from "../review/result.ts";
import type { Span } from "../sql/nodes/tree.ts";
import { keyOf } from "../writing/kept.ts";
import { PREVIEW, type Sheet } from "./sheet.ts";

/** The rows that come, and those that meet one that is there. */
export function insertLooks(sheet: Sheet, source: ChangeSource, table: Table | null): void {
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
  if (body.kind === "values" && writer.valuesQuery === null) {
    sheet.reason("its rows are written out in the statement itself");
  } else if (body.kind === "values") {
    if (body.rows.some((row) => row.some((value) => value.kind === "literal" && value.type === "default")))
      sheet.reason("DEFAULT stands among its values, so they cannot be shown as a query");
    else
      sheet.add(
        sheet.early,
        "preview",
        "The rows that come",
        writer.valuesQuery === "bare" ? query : `SELECT * FROM (${query})${writer.as("rows_to_come")}`,
      );
  } else {
    sheet.add(
      sheet.early,
      "count",
      "How many rows come",
      `SELECT COUNT(*) AS rows_to_come\nFROM (${query})${writer.as("rows_to_come")}`,
    );
    sheet.add(
      sheet.early,
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
  if (body.kind === "values" && writer.valuesQuery !== "derived") return;
  if (
    body.kind === "values" &&
    body.rows.some((row) => row.some((value) => value.kind === "literal" && value.type === "default"))
  )
    return;
  if (!writer.hasWith) return;
  sheet.add(
    sheet.early,
    "preview",
    "Rows that are there already under the same key",
    `WITH rows_to_come (${writer.columns("", table, columns)}) AS (\n${query}\n)\n${writer.first(PREVIEW, "t.*", `FROM ${writer.table(table)}${writer.as("t")}\nINNER JOIN rows_to_come r ON ${writer.match("r", "t", table, key)}`)}`,
  );
}
