import { assignedIn } from "../../analysis/conditions/conditions.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A column assigned twice in one statement.
 *
 * @example
 * UPDATE mooring SET fee = 10, status = 'left', fee = 12 WHERE mooring_id = 3;
 */
export const doubleAssign: Hazard = {
  id: "double-assign",
  family: "values",
  statements: ["update"],
  weight: "stop",
  title: "A column assigned twice",
  explanation:
    "The same column stands twice in SET. PostgreSQL, T-SQL and Oracle refuse that; MySQL and SQLite keep the last value and drop the first " +
    "without a word. One of the two was meant for another column.",
  remedy: "Remove one of the two, or write the column that was meant.",
  example: {
    dialect: "sqlite",
    ddl: "CREATE TABLE mooring (mooring_id INTEGER PRIMARY KEY, status TEXT NOT NULL, fee REAL NOT NULL, note TEXT);",
    dangerous: "UPDATE mooring SET fee = 10, status = 'left', fee = 12 WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET fee = 10, status = 'left' WHERE mooring_id = 3;",
  },
  check({ tree, names, show, dialect }) {
    if (tree.kind !== "update") return [];
    const list = assignedIn(tree, names);
    if (list.length < 2) return [];
    const seen = new Map<string, Expr>();
    const drafts: Draft[] = [];
    for (const { column, value, target } of list) {
      const key = `${column.relation?.name ?? ""}\u0000${column.name}`;
      const before = seen.get(key);
      if (before !== undefined) {
        const keeps = dialect.engine.lastAssignmentWins;
        drafts.push({
          refused: !keeps,
          message: `\`${show(target)}\` is assigned twice, \`${show(before)}\` and \`${show(value)}\`: ${keeps ? "the last one wins" : "the engine refuses that"}.`,
          because: ["the same column stands twice in SET"],
          remedy: "Remove one of the two, or write the column that was meant.",
        });
      }
      seen.set(key, value);
    }
    return drafts;
  },
};
