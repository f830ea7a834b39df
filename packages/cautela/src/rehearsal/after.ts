import { shownName, type Table } from "../catalog/model.ts";
import type { ChangeSource } from "../result.ts";
import type { ChangeText } from "./change-text.ts";
import { changingSql, countSql } from "./looks.ts";
import { PREVIEW, type Sheet } from "./sheet.ts";

// The change itself, and what is compared behind it.

export function guarded(
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
      writer.guarded(source.text, exact ?? changed, shownName(table), changed) ?? source.text,
    );
    return;
  }
  const form = exact === null ? null : writer.guarded(source.text, exact, shownName(table));
  if (form) sheet.add("change", "guarded", "The change, rolled back at another number of rows", form);
  else {
    sheet.add("change", "change", "The change", source.text);
    if (exact !== null)
      sheet.reason(
        `${writer.dialect.title} has no assertion outside of routines: compare the number of rows by hand before COMMIT`,
      );
  }
}

export function afterCheck(
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
