import type { Hazard } from "../hazard.ts";

/**
 * A statement that is complete without its last lines.
 *
 * @example
 * DELETE FROM mooring
 * WHERE mooring_id = 3;   -- whoever selects the first line only deletes everything
 */
export const partialRun: Hazard = {
  id: "partial-run",
  family: "rows",
  statements: ["update", "delete"],
  weight: "note",
  onRequest: true,
  title: "Complete without its last lines",
  explanation:
    "In a client that runs what is selected, a statement whose WHERE begins on a line of its own is complete without that " +
    "line. It is looked for only when the policy gives it a weight.",
  remedy:
    "Put WHERE on the line of the statement's head, or begin the line before it with a comment opener that the WHERE closes.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY);",
    dangerous: "DELETE FROM mooring\nWHERE mooring_id = 3;",
    sound: "DELETE FROM mooring WHERE mooring_id = 3;",
  },
  check({ changes, slice, statement, line, tree }) {
    if (tree.kind !== "update" && tree.kind !== "delete") return [];
    const { where } = tree;
    if (!where || changes.length === 0) return [];
    const before = slice(statement.start, where.start);
    const at = before.toLowerCase().lastIndexOf("where");
    if (
      at < 0 ||
      before.slice(before.lastIndexOf("\n", at) + 1, at).trim() !== "" ||
      !before.slice(0, at).includes("\n")
    )
      return [];
    return [
      {
        message: `Run without line ${line(statement.start + at)}, this reaches every row of \`${changes[0].target}\`.`,
        because: ["the lines before WHERE are a complete statement"],
        remedy: "Put WHERE on the line of the statement's head.",
      },
    ];
  },
};
