import { Trait } from "../../analysis/statement/traits.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Node } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { SqlWriter } from "../../writing/writer.ts";
import { dayFirstDates } from "../day-first-dates.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/** Functions whose date is read by a format that stands beside it. */
const FORMATTED =
  /^(?:to_date|to_timestamp|str_to_date|strptime|convert|try_convert|parse|try_parse|date_format|format|to_char|datevalue|cdate)$/i;

/**
 * A date that one reader takes for March and another for April.
 *
 * @example
 * UPDATE mooring SET to_day = '03/04/2025' WHERE mooring_id = 3;
 */
export const unclearDate: Hazard = {
  id: "unclear-date",
  family: "rows",
  statements: ["update", "delete", "insert", "merge"],
  weight: "ask",
  needs: Trait.text | Trait.change | Trait.columnList,
  title: "A date that can be read two ways",
  explanation:
    "Written with slashes, dots or a year of two digits, a date is read by the settings of the server or the session: 03/04 is " +
    "the third of April in one place and the fourth of March in the other. Jet always reads #03/04/2025# in the American way; MySQL and MariaDB " +
    "find no date in '31.12.2024', which then comes before every date; SQLite compares it as a text.",
  remedy: "Write dates as year, month, day: '2025-04-03'.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, to_day date);",
    dangerous: "UPDATE mooring SET to_day = '03/04/2025' WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET to_day = '2025-04-03' WHERE mooring_id = 3;",
  },
  check(context) {
    const { tree, dialect, show, found } = context;
    if (tree.kind !== "update" && tree.kind !== "delete" && tree.kind !== "insert" && tree.kind !== "merge") return [];
    const writer = sqlWriter(dialect);
    const drafts: Draft[] = unquoted(context, writer);
    const { datesBySession } = dialect.engine;
    if (!found.texts.some((one) => (datesBySession ? /^\s*\d/ : /^\s*\d{1,2}[/.-]\d{1,2}[/.-]\d/).test(one.value)))
      return drafts;
    const { drafts: own, told, dated } = dayFirstDates(context, writer);
    drafts.push(...own);
    walk(tree as Node, (node) => {
      if (drafts.length > 2) return false;
      if (node.kind === "literal" && told.has(node)) return undefined;
      if (node.kind === "call" && FORMATTED.test(node.name.parts[node.name.parts.length - 1].text)) return false;
      if (node.kind !== "literal" || (node.type !== "string" && node.type !== "date")) return undefined;
      const match = /^(\d{1,2})([/.-])(\d{1,2})\2(\d{2}|\d{4})(?: |$)/.exec(node.value.trim());
      if (!match) return undefined;
      const [first, second] = [Number(match[1]), Number(match[3])];
      const shortYear = match[4].length === 2;
      if (first < 1 || second < 1 || first > 31 || second > 31 || (first > 12 && second > 12)) return undefined;
      const twoWays = first <= 12 && second <= 12 && first !== second;
      if (!twoWays && !shortYear) return undefined;
      // A number with dots is no date where dates are not written so.
      if (match[2] === "." && shortYear && !dated.has(node)) return undefined;
      const jet = dialect.lexical.hashDates && node.type === "date";
      const year = shortYear ? `20${match[4]}` : match[4];
      const pad = (n: number): string => String(n).padStart(2, "0");
      drafts.push({
        weight: jet ? "note" : "ask",
        message: jet
          ? `\`${show(node)}\` is month ${first}, day ${second}: Jet reads dates in the American way, whatever the computer shows.`
          : twoWays
            ? `${show(node)} is day ${first}, month ${second} for some settings and month ${first}, day ${second} for others.`
            : `${show(node)} has a year of two digits, whose century the settings decide.`,
        because: [jet ? "between # signs the month comes first" : writer.dateOrder],
        remedy: twoWays
          ? `Write ${writer.date(year, pad(second), pad(first))} or ${writer.date(year, pad(first), pad(second))}, whichever is meant.`
          : `Write the year with four digits, as in ${writer.date("2026", "03", "31")}.`,
      });
      return undefined;
    });
    return drafts;
  },
};

/** `2024-06-09` without quotes is a subtraction, `6/9/2024` a division. */
function unquoted({ found, slice, show, dialect }: HazardContext, writer: SqlWriter): Draft[] {
  const drafts: Draft[] = [];
  for (const node of [...found.comparisons, ...found.divisions]) {
    if ((node.op !== "-" && node.op !== "/") || node.end - node.start > 10 || drafts.length > 2) continue;
    const text = slice(node.start, node.end);
    const iso = /^((?:19|20)\d\d)-(\d{1,2})-(\d{1,2})$/.exec(text);
    const slashed = /^(\d{1,2})\/(\d{1,2})\/((?:19|20)\d\d)$/.exec(text);
    if (!iso && !slashed) continue;
    const [year, month, day] = iso
      ? [iso[1], iso[2], iso[3]]
      : [slashed?.[3] ?? "", slashed?.[1] ?? "", slashed?.[2] ?? ""];
    if (Number(month) < 1 || Number(month) > 12 || Number(day) < 1 || Number(day) > 31) continue;
    drafts.push({
      weight: "stop",
      refused: dialect.engine.strictDates,
      message: iso
        ? `\`${show(node)}\` is no date but a subtraction: ${Number(year) - Number(month) - Number(day)}.`
        : `\`${show(node)}\` is no date but a division.`,
      because: ["a date stands in quotes"],
      remedy: `Write ${writer.date(year, month.padStart(2, "0"), day.padStart(2, "0"))}`,
    });
  }
  return drafts;
}
