import type { Column, Table } from "../../../catalog/model.ts";
import type { PutBack } from "../../../writing/kept.ts";
import type { Phase, PhaseFrame } from "../../../writing/phase.ts";
import { type Assertion, type Restoring, SqlWriter } from "../../../writing/writer.ts";

/** SQLite: triggers are dropped and created again and keys deferred, all within one transaction. */
export class SqliteWriter extends SqlWriter {
  override characters(text: string): string {
    return `LENGTH(${text})`;
  }

  override readonly dateOrder: string = "SQLite has no type for dates: this is a text, and compares as one";

  override get client(): readonly string[] {
    return [".bail on"];
  }

  override readonly cascadesAtOnce = true;

  override readonly recreatesTriggers = true;

  override get valuesQuery() {
    return "derived" as const;
  }

  override readonly keysFollowNames = true;

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

  override altered(text: string, made: string, column: Column | null | undefined): string {
    return `${text} <> ${made}${column?.collation ? " COLLATE BINARY" : ""}`;
  }

  override givenDiffers(has: string, given: string, column: Column | undefined): string {
    return column?.collation ? this.contentDiffers(has, given, column) : this.differs(has, given);
  }

  override contentDiffers(a: string, b: string, _column: Column): string {
    return `${a} IS NOT ${b} COLLATE BINARY`;
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
