import type { Fix, Hazard, HazardContext } from "../hazard.ts";

/**
 * A statement that could not be read.
 *
 * @example
 * DELETE FORM berth;   -- stop: expected FROM, found "FORM"
 */
export const unread: Hazard = {
  id: "unread",
  family: "reading",
  statements: ["unread"],
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
  check({ statement, dialect, line, slice, region }) {
    const { tree } = statement;
    if (tree.kind !== "unread") return [];
    const { expected, found, start } = tree.problem;
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
          ...likely(slice(statement.start, Math.min(statement.end, statement.start + READ))),
        ],
        remedy: /^[A-Z ]+$/.test(expected)
          ? `Correct the place (${expected}?), or name the script's language: -- cautela: dialect …`
          : "Correct the place, or name the script's language: -- cautela: dialect …",
      },
    ];
  },
};

/** Characters of a statement in which its likely fault is looked for. */
const READ = 4000;

/** What often makes a statement unreadable, and how it shows. */
const LIKELY: readonly [RegExp, string][] = [
  [
    /[\u2018\u2019\u201a\u201c\u201d\u201e]/,
    "it holds typographic quotes, which a word processor has made of ' and \"",
  ],
  [/\u00a0/, "it holds a non-breaking space, which is no blank"],
  [/^(?:<<<<<<<|=======|>>>>>>>)/m, "it holds the marks of a merge conflict"],
  [/\{\{|\{%|<%|\$\{/, "it holds the marks of a template that has not been filled in"],
  [
    /^[ \t]*\d{1,5}[.:)]?[ \t]+(?:select|update|delete|insert|create|alter|drop|from|where|set|and|values)\b/im,
    "the numbers of its lines seem to have been pasted along",
  ],
];

function likely(text: string): string[] {
  return LIKELY.filter(([mark]) => mark.test(text)).map(([, said]) => said);
}

/** Straight quotes in the place of those that a word processor has made; null where there are none. */
function straightQuotes(start: number, text: string, region: HazardContext["region"]): Fix | null {
  const edits = [...text.matchAll(/[\u2018\u2019\u201a\u201c\u201d\u201e]/g)].map(({ 0: mark, index }) => ({
    ...region({ start: start + index, end: start + index + 1 }),
    text: /[\u2018\u2019\u201a]/.test(mark) ? "'" : '"',
  }));
  return edits.length === 0 ? null : { title: "Write straight quotes", edits };
}
