import { assignedIn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/truth.ts";
import type { Hazard } from "../hazard.ts";

/** Columns in which two rows hardly ever have the same value. */
const OWN =
  /(?:^|_)(?:name|mail|email|phone|mobile|code|sign|title|licence|license|number|iban|address|street|label)(?:_|$)/i;

/**
 * An assignment that was carried over from the statement it was copied from.
 *
 * @example
 * UPDATE owner SET mail = 'ada@quay.example', phone = '0441' WHERE owner_id = 3;
 * UPDATE owner SET mail = 'ada@quay.example', phone = '0442' WHERE owner_id = 4;
 */
export const leftoverAssignment: Hazard = {
  id: "leftover-assignment",
  family: "order",
  statements: ["update"],
  weight: "ask",
  depends: ["names"],
  title: "A value left over from the statement above",
  explanation:
    "Two statements in a row set the same columns for two different rows. All values differ but one, in a column in which two rows hardly ever have " +
    "the same: it was probably not altered after copying.",
  remedy: "Write this row's own value.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, mail varchar(80), phone varchar(20));",
    dangerous:
      "UPDATE owner SET mail = 'ada@quay.example', phone = '0441' WHERE owner_id = 3;\nUPDATE owner SET mail = 'ada@quay.example', phone = '0442' WHERE owner_id = 4;",
    sound:
      "UPDATE owner SET mail = 'ada@quay.example', phone = '0441' WHERE owner_id = 3;\nUPDATE owner SET mail = 'ben@quay.example', phone = '0442' WHERE owner_id = 4;",
  },
  check({ tree, names, changes, history, show }) {
    if (tree.kind !== "update") return [];
    const [judged] = changes;
    if (judged?.result.reach.bound !== "one") return [];
    const past = history.of(judged.target);
    const before = past[past.length - 1];
    if (before?.action !== "update" || before.where === null) return [];
    const list = assignedIn(tree, names);
    if (
      list.length < 2 ||
      list.length !== before.assigned.size ||
      list.some((one) => !before.assigned.has(one.column.name))
    )
      return [];
    const same = list.filter((one) => before.assigned.get(one.column.name)?.trim() === show(one.value));
    if (same.length !== 1) return [];
    const [left] = same;
    const value = constant(left.value);
    if (value?.type !== "string" || value.value.length < 3 || !OWN.test(left.column.name)) return [];
    // The filter has to refer to another row.
    const earlier = past.filter((one) => one.assigned.get(left.column.name)?.trim() === show(left.value));
    if (earlier.length > 1) return [];
    return [
      {
        message: `\`${left.column.name}\` = ${show(left.value)} stands on line ${before.line} as well, for another row; all other values differ.`,
        because: ["the two statements set the same columns, one row each"],
        remedy: `Write this row's own \`${left.column.name}\`, or remove the assignment.`,
      },
    ];
  },
};
