import type { Column, Table } from "../../catalog/model.ts";
import type { Kept, PutBack } from "../kept.ts";
import type { Phase, PhaseFrame } from "../rehearsal.ts";
import { type Assertion, type Restoring, SqlWriter } from "./writer.ts";

/** SQLite: triggers are dropped and created again and keys deferred, all within one transaction. */
export class SqliteWriter extends SqlWriter {
  override get client(): readonly string[] {
    return [".bail on"];
  }

  override get cascadesAtOnce(): boolean {
    return true;
  }

  override get recreatesTriggers(): boolean {
    return true;
  }

  override get valuesQuery() {
    return "derived" as const;
  }

  override get keysFollowNames(): boolean {
    return true;
  }

  /**
   * Dropping a table deletes its rows first, with all that their keys do (SQLite manual, "DROP TABLE"); within a transaction
   * the keys can no longer be switched off.
   */
  override frame(phase: Phase, transactional: boolean, head: readonly string[], structure = false): PhaseFrame {
    const plain = super.frame(phase, transactional, head);
    if (phase !== "restore" || !structure) return plain;
    return {
      ...plain,
      head: ["PRAGMA foreign_keys = OFF", ...plain.head],
      foot: [...plain.foot, "PRAGMA foreign_keys = ON"],
    };
  }

  override differs(a: string, b: string): string {
    return `${a} IS NOT ${b}`;
  }

  override contentDiffers(a: string, b: string, _column: Column): string {
    return `${a} IS NOT ${b} COLLATE BINARY`;
  }

  override image(name: string, table: Table, _only: boolean, columns: readonly string[] | null) {
    const own = this.name(name);
    const list = columns ? this.columns("t", table, columns) : "t.*";
    return {
      name: own,
      before: [],
      take: [`CREATE TEMP TABLE ${own} AS\nSELECT ${list}\nFROM ${this.table(table)} AS t`],
      drop: [`DROP TABLE ${own}`],
    };
  }

  override setBack(kept: Kept, columns: readonly string[]): string {
    const { table, copy } = kept;
    const target = this.table(table);
    const sets = columns.map((one) => `${this.column(table, one)} = b.${this.column(table, one)}`);
    return `UPDATE ${target} AS t\nSET ${sets.join(",\n    ")}\nFROM ${copy} AS b\nWHERE ${this.matchKept("t", kept)}${this.andDiffers("t", kept, columns)}`;
  }

  override restoring({ triggers, circles }: PutBack, steps: readonly string[]): Restoring {
    return {
      statements: [
        ...(circles.length > 0 ? ["PRAGMA defer_foreign_keys = ON"] : []),
        ...triggers.map(({ trigger }) => `DROP TRIGGER ${this.name(trigger.name)}`),
        ...steps,
        ...triggers.map(({ trigger }) => (trigger.body ?? "").replace(/[;\s]+$/, "")),
      ],
      transactional: true,
    };
  }

  override dropColumn(table: Table, name: string): string {
    return super.dropColumn(table, name).replace(this.ifThere, "");
  }

  override identity(): string {
    return "";
  }

  override addConstraint(): null {
    return null;
  }

  override dropConstraint(): null {
    return null;
  }

  override guarded(change: string, { expected, inside, line }: Assertion): string {
    const rows = `cautela_expected_${line}`;
    const guard = `cautela_guard_${line}`;
    return `${inside ? "" : "BEGIN;\n"}CREATE TEMP TABLE ${rows} AS SELECT ${expected} AS n;
CREATE TEMP TABLE ${guard} (another_number_of_rows_than_expected integer CHECK (another_number_of_rows_than_expected = 0));
${change};
INSERT INTO ${guard} SELECT changes() <> n FROM ${rows};
DROP TABLE ${guard};
DROP TABLE ${rows}${inside ? "" : ";\nCOMMIT"}`;
  }
}
