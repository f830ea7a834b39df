import { keepsValue } from "../../analysis/changes/own-value.ts";
import { assignedIn } from "../../analysis/conditions/conditions.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A column set to itself.
 *
 * @example
 * UPDATE vessel SET name = name WHERE vessel_id = 3;
 */
export const selfAssign: Hazard = {
  id: "self-assign",
  family: "values",
  statements: ["update", "merge"],
  weight: "ask",
  title: "A column set to itself",
  explanation:
    "The assignment writes the value that is there already. Mostly the other side was to come from another table, and its alias is " +
    "missing: without it the name means the target's own column.",
  remedy: "Put the alias of the source in front of the value, or leave the assignment out.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, name varchar(40) NOT NULL, call_sign varchar(10));",
    dangerous: "UPDATE vessel SET name = name, call_sign = 'HX' WHERE vessel_id = 3;",
    sound: "UPDATE vessel SET call_sign = 'HX' WHERE vessel_id = 3;",
  },
  check({ tree, names, show, changes, dialect }) {
    if (tree.kind !== "update" && tree.kind !== "merge") return [];
    const drafts: Draft[] = [];
    for (const assigned of assignedIn(tree, names)) {
      const { column, value, target } = assigned;
      if (!keepsValue(assigned, { names, changes, dialect })) continue;
      // Assigning a stamp to itself is how it is kept (mysql).
      if (column.offered?.column?.onUpdate) continue;
      drafts.push({
        message: `\`${show(target)} = ${show(value)}\` writes the value that is there already.`,
        because: ["both sides are the same column of the same table"],
        remedy: "Put the alias of the source in front of the value, or leave the assignment out.",
      });
    }
    return drafts;
  },
};
