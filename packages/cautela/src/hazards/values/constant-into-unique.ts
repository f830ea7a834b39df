import { assignedIn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/truth.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * One value for many rows of a unique column.
 *
 * @example
 * UPDATE owner SET mail = 'office@quay.example' WHERE left_on IS NOT NULL;   -- mail is unique
 */
export const constantIntoUnique: Hazard = {
  id: "constant-into-unique",
  family: "values",
  statements: ["update"],
  weight: "stop",
  depends: ["names"],
  title: "The same value for a unique column of many rows",
  explanation:
    "A unique key allows a value once, and the statement writes the same one into every row that it reaches: the second row makes it fail, or, " +
    "where errors are ignored, all but one row stay as they were.",
  remedy: "Make the values different, or filter by the key of the one row that is meant.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, mail varchar(80) UNIQUE, left_on date);",
    dangerous: "UPDATE owner SET mail = 'office@quay.example' WHERE left_on IS NOT NULL;",
    sound: "UPDATE owner SET mail = NULL WHERE left_on IS NOT NULL;",
  },
  check({ tree, names, changes, show, dialect }) {
    if (tree.kind !== "update") return [];
    const [judged] = changes;
    const table = judged?.change.table;
    if (!table || judged.result.reach.bound === "one" || judged.result.reach.bound === "none") return [];
    const assigned = assignedIn(tree, names);
    const drafts: Draft[] = [];
    for (const key of [table.primaryKey, ...table.uniqueKeys]) {
      if (!key || key.partial || key.columns.length !== 1) continue;
      const hit = assigned.find(
        (one) =>
          one.column.name === key.columns[0].toLowerCase() &&
          (!one.column.relation || one.column.relation.table === table),
      );
      const value = hit ? constant(hit.value) : null;
      if (!hit || !value || value.type === "null") {
        // One NULL only is allowed (tsql).
        if (!hit || value?.type !== "null" || !dialect.engine.oneNullInUnique) continue;
      }
      drafts.push({
        message: `\`${key.columns[0]}\` of \`${judged.target}\` is unique, and every row that is reached gets ${show(hit.value)}: the second one makes this fail.`,
        because: [
          key === table.primaryKey ? "it is the primary key" : "a unique key keeps its values different",
          "the filter can meet more than one row",
        ],
        remedy: "Filter by the key of the one row that is meant, or make the values different.",
      });
    }
    return drafts;
  },
};
