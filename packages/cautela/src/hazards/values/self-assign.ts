import { assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import { plainColumn } from "../../analysis/conditions/constants.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

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
    for (const { column, value, target } of assignedIn(tree, names)) {
      const other = usedColumn(value, names);
      if (!other || other.name !== column.name) continue;
      const same =
        column.relation && other.relation
          ? column.relation === other.relation
          : pathOf(target) === pathOf(value) || isTargets(target, value, changes, dialect);
      if (!same) continue;
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

/** `fee = mooring.fee`: what follows SET without an alias is the target's, and so is what has the target's name in front. */
function isTargets(target: Expr, value: Expr, changes: HazardContext["changes"], dialect: Dialect): boolean {
  const [own, from] = [plainColumn(target), plainColumn(value)];
  if (own?.path.length !== 1 || from?.path.length !== 2 || changes.length !== 1 || dialect.grammar.joinedUpdate)
    return false;
  return from.path[0].text.toLowerCase() === changes[0].change.relation?.name.toLowerCase();
}

/** A column as written, in small letters: the text itself may be one of dynamic SQL. */
function pathOf(expr: Expr): string {
  return (
    plainColumn(expr)
      ?.path.map(({ text }) => text.toLowerCase())
      .join(".") ?? ""
  );
}
