import type { Policy } from "../policy/policy.ts";
import type { SqlWriter } from "../writing/writer.ts";
import type { CopyNames } from "./copy-names.ts";
import type { RehearsalQuery, RehearsalSheet } from "./rehearsal.ts";
import type { ScriptStep } from "./script-steps.ts";

/** Rows that a preview shows at most. */
export const PREVIEW = 100;

/** What is the same for all sheets of a rehearsal. */
export interface SheetContext {
  writer: SqlWriter;
  names: CopyNames;
  policy: Policy;
  /** Only this statement is asked for: its looks and copies come before it, whatever the script does earlier. */
  alone: boolean;
}

/** A sheet in the making. */
export class Sheet {
  readonly writer: SqlWriter;
  /** Where looks and copies stand: before the script, or in the change where its rows depend on what comes before. */
  readonly early: "before" | "change";
  readonly #sheet: RehearsalSheet;
  #table = "";

  constructor(step: ScriptStep, writer: SqlWriter, alone: boolean) {
    this.writer = writer;
    const { statement, source, dependsOn } = step;
    const { index, line, kind } = statement;
    this.early = dependsOn && !alone ? "change" : "before";
    this.#sheet = {
      statement: index,
      line,
      kind,
      target: statement.target ?? step.written[0]?.table.name ?? "",
      queries: [],
      reasons: [],
      privileges: [],
      expected: source.expected,
      dependsOn: dependsOn?.line ?? null,
      countDependsOn: step.countDependsOn,
      endsBatch: false,
    };
  }

  add(phase: RehearsalQuery["phase"], purpose: RehearsalQuery["purpose"], title: string, sql: string): void {
    const whole =
      this.#table === "" || title === "" || title.endsWith(this.#table) ? title : `${title} of ${this.#table}`;
    this.#sheet.queries.push({ phase, purpose, title: whole, sql });
  }

  /** Several statements, the first of which carries the title. */
  addAll(
    phase: RehearsalQuery["phase"],
    purpose: RehearsalQuery["purpose"],
    title: string,
    list: readonly string[],
  ): void {
    list.forEach((sql, i) => {
      this.add(phase, purpose, i === 0 ? title : "", sql);
    });
  }

  /** From here on titles name the table; empty: no longer. */
  titled(table: string): void {
    this.#table = table;
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
