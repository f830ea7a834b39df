import type { Hazard } from "../hazard.ts";

/** What a statement that was cut off goes on with. */
const GOES_ON = /^(?:where|and|or|from|inner|left|join|using)\b/i;

/**
 * A terminator or a batch separator between a statement and its WHERE.
 *
 * @example
 * DELETE FROM mooring;
 * WHERE mooring_id = 3;   -- stop: the first line alone deletes everything
 */
export const strandedFilter: Hazard = {
  id: "stranded-filter",
  family: "rows",
  weight: "stop",
  title: "A filter that was cut off",
  explanation:
    "A semicolon or a batch separator stands between the statement and its WHERE. The first part is complete and runs " +
    "without a filter; the WHERE after it is a statement of its own that the engine refuses, when it is too late.",
  remedy: "Remove the terminator before WHERE.",
  example: {
    dialect: "tsql",
    ddl: "CREATE TABLE mooring (mooring_id int PRIMARY KEY, fee decimal(10,2) NOT NULL);",
    dangerous: "UPDATE mooring SET fee = 0\nGO\nWHERE mooring_id = 3\nGO",
    sound: "UPDATE mooring SET fee = 0\nWHERE mooring_id = 3\nGO",
  },
  check({ changes, next, slice, statement, line, region }) {
    if (next?.kind !== "unread") return [];
    const head = slice(next.start, Math.min(next.end, next.start + 200));
    if (!GOES_ON.test(head)) return [];
    const [change] = changes;
    if (!change || (change.result.filter !== "absent" && change.result.filter !== "hollow")) return [];
    const cut = statement.terminator === "batch" ? "a batch separator" : "a terminator";
    const between = slice(statement.end, next.start);
    const at = between.indexOf(";");
    const only = at >= 0 && between.slice(0, at).trim() === "";
    const edits = [{ ...region({ start: statement.end, end: statement.end + at + 1 }), text: "" }];
    return [
      {
        ...(only ? { fix: { title: "Remove the terminator", edits } } : {}),
        message: `The filter of this statement is cut off: \`${head.split("\n", 1)[0].trim()}\` on line ${line(next.start)} belongs to it, and without it every row of \`${change.target}\` is hit.`,
        because: [`${cut} stands before it`, "what comes after it is no statement of its own"],
        remedy: `Remove ${cut}: the statement then ends with ${head.split("\n", 1)[0].trim()}`,
      },
    ];
  },
};
