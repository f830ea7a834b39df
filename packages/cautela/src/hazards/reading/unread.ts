import type { Hazard } from "../hazard.ts";

/**
 * A statement that could not be read.
 *
 * @example
 * DELETE FORM berth;   -- ask: expected FROM, found "FORM"
 */
export const unread: Hazard = {
  id: "unread",
  family: "reading",
  statements: ["unread"],
  weight: "ask",
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
  check({ statement, dialect, line }) {
    const { tree } = statement;
    if (tree.kind !== "unread") return [];
    const { expected, found, start } = tree.problem;
    return [
      {
        message: `This statement could not be read, so nothing in it was checked: line ${line(start)} has ${found} where ${expected} was expected.`,
        because: [`read as ${dialect.title}`],
        remedy: /^[A-Z ]+$/.test(expected)
          ? `Correct the place (${expected}?), or name the script's language: -- cautela: dialect …`
          : "Correct the place, or name the script's language: -- cautela: dialect …",
      },
    ];
  },
};
