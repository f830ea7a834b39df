import type { Table } from "../catalog/model.ts";
import type { ChangeSource, StatementReview } from "../result.ts";
import type { Phase, RehearsalQuery, RehearsalSheet } from "./rehearsal.ts";
import type { SqlWriter } from "./sql-writer.ts";

/** Rows that a preview shows at most. */
export const PREVIEW = 100;

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

/** What a table's copy holds, and how it goes back. */
export interface Kept {
  table: Table;
  copy: string;
  how: "deleted" | "updated" | "added" | "whole";
}
