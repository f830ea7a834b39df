import { assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import { columnText } from "../../writing/relation-names.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A value from a differently named column, although the source has one of the same name.
 *
 * @example
 * UPDATE owner o SET phone = n.mobile FROM notice n WHERE n.owner_id = o.owner_id;   -- n has a column phone
 */
export const lookalikeColumn: Hazard = {
  id: "lookalike-column",
  family: "values",
  statements: ["update", "merge"],
  weight: "ask",
  depends: ["names"],
  title: "Another column than the one of the same name",
  explanation:
    "The source has a column with the very name of the one that is written, and the value is taken from a different one of the same kind. " +
    "Similar names next to each other in a list are easily taken for one another.",
  remedy: "Take the column of the same name, or say in a comment that the other one is meant.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, phone varchar(20), mail varchar(80));\nCREATE TABLE owner_new (owner_id integer PRIMARY KEY, phone varchar(20), phone_old varchar(20), mail varchar(80));",
    dangerous: "UPDATE owner AS o SET phone = n.phone_old FROM owner_new n WHERE n.owner_id = o.owner_id;",
    sound: "UPDATE owner AS o SET phone = n.phone FROM owner_new n WHERE n.owner_id = o.owner_id;",
  },
  check({ tree, names, show, dialect }) {
    if (!names || (tree.kind !== "update" && tree.kind !== "merge")) return [];
    const list = assignedIn(tree, names);
    const drafts: Draft[] = [];
    for (const { column, value, target } of list) {
      const from = usedColumn(value, names);
      if (!from?.relation || from.relation === column.relation || from.name === column.name) continue;
      const twin = from.relation.columns?.find((one) => one.name.toLowerCase() === column.name);
      if (!twin) continue;
      // Copied crosswise is the other hazard; a key that both carry says nothing.
      if (list.some((other) => other.column.name === from.name && usedColumn(other.value, names)?.name !== from.name))
        continue;
      if (from.offered?.column && twin.column && from.offered.column.type !== twin.column.type) continue;
      drafts.push({
        message: `\`${show(target)}\` is taken from \`${show(value)}\`, although \`${from.relation.name}\` has a column \`${twin.name}\`.`,
        because: [`\`${from.relation.name}\` has both \`${twin.name}\` and \`${from.name}\``],
        remedy: `If the column of the same name is meant: ${show(target)} = ${columnText(from.relation, twin.name, sqlWriter(dialect))}`,
      });
    }
    return drafts;
  },
};
