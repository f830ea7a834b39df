import { MIRRORED } from "../analysis/conditions/bounds.ts";
import { assignedIn, usedColumn } from "../analysis/conditions/conditions.ts";
import { within } from "../analysis/statement/node-index.ts";
import type { Column } from "../catalog/model.ts";
import { valueKind } from "../catalog/types.ts";
import type { Expr, Literal } from "../sql/nodes/tree.ts";
import { walk } from "../sql/nodes/visitor.ts";
import type { SqlWriter } from "../writing/writer.ts";
import type { Draft, HazardContext } from "./hazard.ts";

/** A date whose year stands last, and the column that it is compared with or written into. */
interface Met {
  literal: Literal;
  column: Column;
  /** How it is compared, the column on the left; null: it is written. */
  op: string | null;
}

const YEAR_LAST = /^(\d{1,2})[/.-](\d{1,2})[/.-](\d{2}|\d{4})(?: |$)/;

/**
 * Dates like '31.12.2019' where they meet a date column. MySQL and MariaDB read the year first and find no date in them ("Date
 * and Time Literals": as a comparison they are before all dates, written they are refused, or 0000-00-00 where sql_mode is
 * not strict); SQLite compares texts. `dated`: the texts that are dates by their columns, whatever they look like.
 */
export function dayFirstDates(
  context: HazardContext,
  writer: SqlWriter,
): { drafts: Draft[]; told: ReadonlySet<Literal>; dated: ReadonlySet<Literal> } {
  const drafts: Draft[] = [];
  const told = new Set<Literal>();
  const dated = new Set<Literal>();
  const written = new Set<Column>();
  for (const met of meetings(context)) {
    dated.add(met.literal);
    const draft = draftOf(met, context, writer);
    if (!draft) continue;
    told.add(met.literal);
    // Many rows of an INSERT make one mistake.
    if (drafts.length > 2 || (met.op === null && written.has(met.column))) continue;
    if (met.op === null) written.add(met.column);
    drafts.push(draft);
  }
  return { drafts, told, dated };
}

function draftOf({ literal, column, op }: Met, context: HazardContext, writer: SqlWriter): Draft | null {
  const { dialect, show, changes } = context;
  const [, first, second, year] = YEAR_LAST.exec(literal.value.trim()) ?? [];
  if (year === undefined && dialect.engine.datesBySession) return bySession(literal, column, context);
  if (year?.length !== 4) return null;
  const [one, other] = [Number(first), Number(second)];
  if (one < 1 || other < 1 || one > 31 || other > 31 || (one > 12 && other > 12)) return null;
  const pad = (n: number): string => String(n).padStart(2, "0");
  const dates = [
    ...(other <= 12 ? [writer.date(year, pad(other), pad(one))] : []),
    ...(one <= 12 && one !== other ? [writer.date(year, pad(one), pad(other))] : []),
  ];
  const remedy = dates.length > 1 ? `Write ${dates.join(" or ")}, whichever is meant.` : `Write ${dates[0]}`;
  const { name } = column;
  if (dialect.engine.datesYearFirst) {
    const filters = changes.some(({ change }) => change.conditions.some(({ expr }) => within(literal, expr)));
    if (op === null)
      return {
        message: `${show(literal)} is no date for ${dialect.title}, which reads the year first: \`${name}\` refuses it, or becomes 0000-00-00 where sql_mode is not strict.`,
        because: [`\`${name}\` is ${column.type}`, writer.dateOrder],
        remedy,
        weight: "stop",
      };
    const all = /^(?:>=?|<>|!=|not .*)$/.test(op);
    return {
      weight: all && filters ? "stop" : "ask",
      message: `${show(literal)} is no date for ${dialect.title}, which reads the year first: ${all ? "every" : "no"} \`${name}\` meets this comparison.`,
      because: ["such a text counts as 0, which is before all dates, with no more than a warning"],
      remedy,
    };
  }
  if (dialect.engine.affinities)
    return {
      weight: "ask",
      message:
        op === null
          ? `${show(literal)} goes into \`${name}\` as a text, which sorts by its day and not by its year.`
          : `\`${name}\` is compared with ${show(literal)} as with a text, sign by sign: the day counts first, the year last.`,
      because: [writer.dateOrder],
      remedy,
    };
  // Elsewhere such a date is read by the session's settings, or refused for all to see.
  return null;
}

/** A text that the session's format turns into a date, or does not (Oracle, SQL Language Reference, "Format Models"). */
function bySession(literal: Literal, column: Column, { show, region, history }: HazardContext): Draft | null {
  if (history.setting("nls_date_format") !== null || history.setting("nls_timestamp_format") !== null) return null;
  const value = literal.value.trim();
  const iso = /^\d{4}-\d\d-\d\d$/.test(value);
  return {
    weight: "note",
    cause: "by session",
    message: `${show(literal)} becomes a date by NLS_DATE_FORMAT, and where the session has another format the engine refuses it.`,
    because: [`\`${column.name}\` is ${column.type}, and this is a text`],
    remedy: iso
      ? `Write DATE ${show(literal)}.`
      : "Write a date of its own: DATE '2026-03-31', or TO_DATE with its format.",
    ...(iso ? { fix: { title: "Write a date", edits: [{ ...region(literal), text: `DATE '${value}'` }] } } : {}),
  };
}

function* meetings(context: HazardContext): IterableIterator<Met> {
  const { tree, names, dialect, found, inserted } = context;
  const { datesBySession } = dialect.engine;
  const looks = (value: string): boolean => (datesBySession ? /^\s*\d/ : YEAR_LAST).test(value.trim());
  if (!names || !found.texts.some(({ value }) => looks(value))) return;
  const isDate = (column: Column | null | undefined): column is Column =>
    !!column &&
    ["date", "timestamp"].includes(
      dialect.engine.affinities && /^date|^time/.test(column.type) ? "date" : valueKind(column, dialect),
    );
  const dated = (expr: Expr): Column | null => {
    const column = usedColumn(expr, names)?.offered?.column;
    return isDate(column) ? column : null;
  };
  const asDate = (expr: Expr): Literal | null =>
    expr.kind === "literal" && expr.type === "string" && looks(expr.value) ? expr : null;
  const list: Met[] = [];
  const meet = (operand: Expr, value: Expr, op: string | null): void => {
    const literal = asDate(value);
    const column = literal && dated(operand);
    if (literal && column) list.push({ literal, column, op });
  };
  walk(tree, (node) => {
    if (node.kind === "binary") {
      meet(node.left, node.right, node.op);
      meet(node.right, node.left, MIRRORED[node.op] ?? node.op);
    } else if (node.kind === "between") {
      // The lower end is what rows are found by: 0 is before all of them, and so is the upper end.
      meet(node.operand, node.high, node.negated ? "not between" : "between");
    } else if (node.kind === "in")
      for (const item of node.items ?? []) meet(node.operand, item, node.negated ? "not in" : "in");
    return undefined;
  });
  for (const { column, value } of assignedIn(tree, names)) {
    const literal = asDate(value);
    if (literal && isDate(column.offered?.column)) list.push({ literal, column: column.offered.column, op: null });
  }
  for (const row of inserted?.rows ?? [])
    for (const [i, value] of row.entries()) {
      const literal = asDate(value);
      const column = inserted?.columns[i];
      if (literal && isDate(column)) list.push({ literal, column, op: null });
    }
  yield* list;
}
