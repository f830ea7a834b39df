import { assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * AND where a comma was meant.
 *
 * @example
 * UPDATE mooring SET status = 'left' AND fee = 0 WHERE mooring_id = 3;   -- status becomes 0
 */
export const andInSet: Hazard = {
  id: "and-in-set",
  family: "values",
  statements: ["update", "merge", "insert"],
  weight: "stop",
  needs: Trait.and,
  title: "AND between two assignments",
  explanation:
    "SET a = 1 AND b = 2 is one assignment: a gets the truth of `1 AND b = 2`, which is 0 or 1, and b is not written at all. MySQL, " +
    "MariaDB and SQLite do it without a word; other engines refuse it unless the column is boolean.",
  remedy: "Write a comma between assignments.",
  example: {
    dialect: "mysql",
    ddl: "CREATE TABLE mooring (mooring_id int PRIMARY KEY, status varchar(20) NOT NULL, fee decimal(10,2) NOT NULL);",
    dangerous: "UPDATE mooring SET status = 'left' AND fee = 0 WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET status = 'left', fee = 0 WHERE mooring_id = 3;",
  },
  check({ tree, names, show, dialect, region }) {
    const drafts: Draft[] = [];
    for (const { column, value, target } of assignedIn(tree, names)) {
      if (value.kind !== "logic" || value.op !== "and" || value.parenthesised) continue;
      const rest = value.items.slice(1);
      const assigned = rest.filter((item) => item.kind === "binary" && item.op === "=" && usedColumn(item.left, names));
      if (assigned.length === 0) continue;
      const silent = dialect.engine.booleansAreValues;
      const whole = assigned.length === rest.length;
      const edits = value.items.slice(1).map((item, i) => ({
        ...region({ start: value.items[i].end, end: item.start }),
        text: ", ",
      }));
      drafts.push({
        ...(whole ? { fix: { title: "Put a comma between the assignments", edits } } : {}),
        refused: !silent,
        message: silent
          ? `\`${column.name}\` gets the truth of \`${show(value)}\`, 0 or 1, and ${assigned.map((item) => `\`${show(item.kind === "binary" ? item.left : item)}\``).join(" and ")} is not written.`
          : `AND stands between two assignments: \`${show(value)}\` is one condition, and the engine refuses it for \`${column.name}\`.`,
        because: ["AND joins conditions; assignments are joined by commas"],
        remedy: `SET ${show(target)} = ${show(value.items[0])}, ${rest.map(show).join(", ")}`,
      });
    }
    return drafts;
  },
};
