import { type Catalog, type RehearsalSheet, rehearse } from "cautela";
import { visible, whyNotReadOnly } from "cautela/tools";
import { isDatabase } from "./catalog-source.ts";
import { Failure } from "./failure.ts";
import { shownSource } from "./live/database-url.ts";
import { openReadOnly, type ReadOnly } from "./live/measure.ts";
import { print } from "./output.ts";
import { oneStatement, reviewedScript, type ScriptFlags } from "./reviewed-script.ts";
import { terminalStyle } from "./style.ts";

export interface MeasureFlags extends ScriptFlags {
  seconds: number;
  rows: number;
  format: "text" | "json";
}

/** What was found out about one changing statement. */
interface Measured {
  statement: number;
  line: number;
  kind: string;
  target: string;
  /** Rows that the statement would touch; null where that was not counted. */
  touched: number | null;
  /** Rows whose values would really change; null where that was not counted. */
  changed: number | null;
  expected: RehearsalSheet["expected"];
  /** Whether the number is the expected one; null without an expectation or a count. */
  met: boolean | null;
  /** Why something was not counted. */
  reasons: string[];
}

/** `cautela measure`: runs the counting queries of a rehearsal, and compares them with what the author expects. */
export async function measureCommand(path: string, flags: MeasureFlags): Promise<number> {
  const source = [...(flags.catalog ?? [])].reverse().find(isDatabase);
  if (source === undefined)
    throw new Failure("--catalog names no database to measure: a URL or an SQLite file is needed");
  const result = await reviewedScript(path, flags);
  const { catalog } = result;
  if (!catalog) throw new Failure("the database could not be read");
  // One row more than is asked for tells whether there are more.
  const { sheets } = rehearse(result, { countUpTo: flags.rows + 1, ...oneStatement(flags) });
  const database = await openReadOnly(source, flags.seconds);
  const measured: Measured[] = [];
  try {
    for (const sheet of sheets)
      if (sheet.queries.some(({ purpose }) => purpose === "change" || purpose === "guarded" || purpose === "count"))
        measured.push(await measure(sheet, database, catalog, flags.rows));
  } finally {
    await database.close();
  }
  if (flags.format === "json")
    await print(`${JSON.stringify({ format: "cautela.measure", version: 1, path, measured }, null, 2)}\n`);
  else await print(text(measured, shownSource(source)));
  if (measured.some(({ met }) => met === false)) return 1;
  // A measurement without a single number is none.
  return measured.length > 0 && measured.every(({ touched, changed }) => touched === null && changed === null) ? 2 : 0;
}

async function measure(sheet: RehearsalSheet, database: ReadOnly, catalog: Catalog, most: number): Promise<Measured> {
  const { statement, line, kind, target, expected } = sheet;
  const found: Measured = {
    statement,
    line,
    kind,
    target,
    touched: null,
    changed: null,
    expected,
    met: null,
    reasons: [],
  };
  let beyond = false;
  const counts = sheet.queries.filter(({ purpose }) => purpose === "count");
  if (counts.length === 0)
    found.reasons.push(
      ...(sheet.reasons.length > 0 ? sheet.reasons : ["no count is needed: its rows are written out"]),
    );
  for (const { sql } of counts) {
    const why = whyNotReadOnly(sql, catalog);
    if (why !== null) {
      if (!found.reasons.includes(`not run: ${why}`)) found.reasons.push(`not run: ${why}`);
      continue;
    }
    const row = await database.row(sql);
    if (typeof row === "string") found.reasons.push(row);
    else if (Number(Object.values(row)[0]) > most) {
      beyond ||= "rows_touched" in row;
      found.reasons.push(`more than ${rows(most)}: not counted to the end (--rows)`);
    } else if ("rows_changed" in row) found.changed = Number(row.rows_changed);
    else found.touched = Number(Object.values(row)[0]);
  }
  if (sheet.countDependsOn !== null)
    found.reasons.push(
      `which rows it meets depends on line ${sheet.countDependsOn}: the number holds only once that has run`,
    );
  // More than were counted are more than were expected.
  if (expected && found.touched === null && beyond && expected.rows <= most) found.met = false;
  if (expected && found.touched !== null && sheet.countDependsOn === null)
    found.met = expected.atMost ? found.touched <= expected.rows : found.touched === expected.rows;
  return found;
}

function text(measured: readonly Measured[], source: string): string {
  const style = terminalStyle(process.stdout);
  const lines = [`${style("strong", "measured")} ${style("dim", `on ${source}, in a read-only transaction`)}`];
  for (const { line, kind, target, touched, changed, expected, met, reasons } of measured) {
    const parts: string[] = [];
    if (touched !== null) parts.push(rows(touched));
    if (changed !== null && changed !== touched) parts.push(`${rows(changed)} really change`);
    if (expected) parts.push(`expected ${expected.atMost ? "at most " : ""}${rows(expected.rows)}`);
    const verdict =
      met === null ? "" : met ? `  ${style("clear", "as expected")}` : `  ${style("stop", "■ another number")}`;
    lines.push(
      `line ${String(line).padStart(4)}  ${kind} of ${visible(target)}: ${parts.length > 0 ? parts.join(", ") : "not counted"}${verdict}`,
    );
    for (const reason of reasons) lines.push(style("dim", `           ${visible(reason)}`));
  }
  if (measured.length === 0) lines.push("No statement of this script changes rows.");
  return `${lines.join("\n")}\n`;
}

function rows(count: number): string {
  return `${count.toLocaleString("en")} ${count === 1 ? "row" : "rows"}`;
}
