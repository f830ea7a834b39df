import { isTypographic } from "../../analysis/statement/node-index.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Draft, Fix, Hazard, HazardContext } from "../hazard.ts";
import { likelyCauses, meantWord, READ } from "../likely-cause.ts";
import { isCutOff } from "../rows/stranded-filter.ts";

/**
 * A statement that could not be read.
 *
 * @example
 * DELETE FORM berth;   -- stop: expected FROM, found "FORM"
 */
export const unread: Hazard = {
  id: "unread",
  family: "reading",
  subsumes: ["unknown-name"],
  needs: Trait.typographic | Trait.unread,
  weight: "stop",
  title: "A statement that could not be read",
  explanation:
    "Cautela could not read the statement, so nothing was checked in it: not its rows, not its tables, not its way " +
    "back. Either it is not valid in this dialect, or it is written in a way that Cautela does not know yet. Whoever " +
    "runs the script must look at it.",
  remedy: "Correct the place that is named, or choose the dialect the script is written for.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE berth (berth_id integer PRIMARY KEY);",
    dangerous: "DELETE FORM berth WHERE berth_id = 3;",
    sound: "DELETE FROM berth WHERE berth_id = 3;",
  },
  check(context) {
    const { statement, dialect, line, slice, region } = context;
    const { tree } = statement;
    if (tree.kind !== "unread") return typographic(context);
    if (isCutOff(context)) return [];
    const { expected, found, start } = tree.problem;
    const meant = meantWord(tree.problem, dialect);
    const fix = straightQuotes(
      statement.start,
      slice(statement.start, Math.min(statement.end, statement.start + READ)),
      region,
    );
    return [
      {
        ...(fix ? { fix } : {}),
        message: `This statement could not be read, so nothing in it was checked: line ${line(start)} has ${found} where ${expected} was expected.`,
        because: [
          `read as ${dialect.title}`,
          ...(meant === null ? [] : [`${found} looks like ${meant}`]),
          ...likelyCauses(slice(statement.start, Math.min(statement.end, statement.start + READ)), dialect),
        ],
        remedy: /^[A-Z ]+$/.test(meant ?? expected)
          ? `Correct the place (${meant ?? expected}?), or name the script's language: -- cautela: dialect …`
          : "Correct the place, or name the script's language: -- cautela: dialect …",
      },
    ];
  },
};

/** A text in typographic quotes is read as a name, which no table has. */
function typographic({ found, statement, slice, region, show }: HazardContext): Draft[] {
  const first = found.columns.find(isTypographic);
  if (!first) return [];
  const text = slice(statement.start, Math.min(statement.end, statement.start + READ));
  const fix = straightQuotes(statement.start, text, region);
  return [
    {
      ...(fix ? { fix } : {}),
      refused: true,
      message: `\`${show(first)}\` is no text: its quotes are typographic, so the engine refuses this.`,
      because: ["a word processor has made them of ' and \""],
      remedy: "Write straight quotes.",
    },
  ];
}

/** Straight quotes in the place of those that a word processor has made; null where there are none. */
function straightQuotes(start: number, text: string, region: HazardContext["region"]): Fix | null {
  const edits = [...text.matchAll(/[\u2018\u2019\u201a\u201c\u201d\u201e]/g)].map(({ 0: mark, index }) => ({
    ...region({ start: start + index, end: start + index + 1 }),
    text: /[\u2018\u2019\u201a]/.test(mark) ? "'" : '"',
  }));
  return edits.length === 0 ? null : { title: "Write straight quotes", edits };
}
