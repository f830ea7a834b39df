import {
  type AssignedColumn,
  assignedIn,
  pinsOf,
  sameValue,
  shownValue,
  type UsedColumn,
} from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import type { PastChange } from "../../analysis/script/history.ts";
import { partedName } from "../../catalog/columns.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext, JudgedChange } from "../hazard.ts";

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
    "the same: it was probably not altered after copying. The same goes for a value that the filter asks for already, and for one that was the filter of the " +
    "statement before.",
  remedy: "Write this row's own value.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, mail varchar(80), phone varchar(20));",
    dangerous:
      "UPDATE owner SET mail = 'ada@quay.example', phone = '0441' WHERE owner_id = 3;\nUPDATE owner SET mail = 'ada@quay.example', phone = '0442' WHERE owner_id = 4;",
    sound:
      "UPDATE owner SET mail = 'ada@quay.example', phone = '0441' WHERE owner_id = 3;\nUPDATE owner SET mail = 'ben@quay.example', phone = '0442' WHERE owner_id = 4;",
  },
  check(context) {
    const { tree, names, changes, history } = context;
    if (tree.kind !== "update") return [];
    const [judged] = changes;
    if (!judged) return [];
    const past = history.of(judged.target);
    const before = past[past.length - 1];
    const list = assignedIn(tree, names);
    const pinned = pinnedAgain(list, judged.change.conditions, context);
    if (pinned) return [pinned];
    // What is left over from typing stands in one script.
    if (before?.action !== "update" || before.where === null || before.statement < 0) return [];
    const guard = guardOfBefore(list, before, judged.change.conditions, context);
    if (guard) return [guard];
    if (judged.result.reach.bound !== "one") return [];
    if (
      list.length < 2 ||
      list.length !== before.assigned.size ||
      list.some((one) => !before.assigned.has(one.column.name))
    )
      return [];
    const { show } = context;
    const same = list.filter((one) => before.assigned.get(one.column.name)?.trim() === show(one.value));
    if (same.length !== 1) return [];
    const [left] = same;
    const value = constant(left.value);
    if (
      value?.type !== "string" ||
      value.value.length < 3 ||
      !OWN.test(partedName(left.column.offered?.column ?? left.column))
    )
      return [];
    // The filter has to refer to another row.
    const earlier = past.filter((one) => one.assigned.get(left.column.name)?.trim() === show(left.value));
    if (earlier.length > 1) return [];
    return [
      {
        message: `\`${left.column.name}\` = ${show(left.value)} stands on ${before.place} as well, for another row; all other values differ.`,
        because: ["the two statements set the same columns, one row each"],
        remedy: `Write this row's own \`${left.column.name}\`, or remove the assignment.`,
      },
    ];
  },
};

/** A column that the filter pins to the very value that SET gives it: one of the two is left over. A key is often written along. */
function pinnedAgain(
  list: readonly AssignedColumn[],
  conditions: readonly { expr: Expr }[],
  { names, changes, dialect }: HazardContext,
): Draft | null {
  const key = changes[0].change.table?.primaryKey?.columns ?? [];
  for (const { column, values } of pinsOf(conditions, names)) {
    if (values.length !== 1 || !isOwn(column, changes[0]) || key.some((one) => one.toLowerCase() === column.name))
      continue;
    const twin = list.find((one) => one.column.name === column.name);
    const value = twin ? constant(twin.value) : null;
    // Where 'Rye' equals 'rye', one spelling is written over the others.
    if (!value || !sameValue(value, values[0]) || (value.type === "string" && dialect.engine.looseText)) continue;
    const only = list.length === 1;
    return {
      weight: only ? "ask" : "note",
      message: `\`${column.name}\` is ${shownValue(value)} already in every row that the filter meets, and SET writes it again.`,
      because: [only ? "the statement changes nothing" : "the assignment changes nothing"],
      remedy: "Remove it, or write the value that is meant, there or in the filter.",
    };
  }
  return null;
}

/** Whether a column of the filter is one of the changed table. */
function isOwn({ binding, name }: UsedColumn, { change }: JudgedChange): boolean {
  const path = binding?.node.path ?? [];
  const qualifier = path.length > 1 ? path[path.length - 2].text.toLowerCase() : null;
  if (qualifier !== null) return qualifier === change.relation?.name.toLowerCase();
  return (
    change.scope.relations.length === 1 || change.table?.columns.some((one) => one.name.toLowerCase() === name) === true
  );
}

/** SET gives a column the value that the filter of the statement before asks for. */
function guardOfBefore(
  list: readonly AssignedColumn[],
  before: PastChange,
  conditions: readonly { expr: Expr }[],
  { names }: HazardContext,
): Draft | null {
  if (list.length < 2) return null;
  const own = pinsOf(conditions, names);
  for (const { column, value } of list) {
    const asked = before.where?.get(column.name);
    const given = constant(value);
    // The statement before sets it itself, or this one asks for it too.
    if (!asked || !given || before.assigned.has(column.name) || own.some((one) => one.column.name === column.name))
      continue;
    if (given.type === "null" || !sameValue(asked, given)) continue;
    if (list.some((one) => one.column.name !== column.name && before.assigned.has(one.column.name)))
      return {
        message: `\`${column.name}\` = ${shownValue(given)} is the filter of ${before.place}, and an assignment here.`,
        because: ["the two statements set the same column otherwise"],
        remedy: "Put it into the WHERE, or remove it.",
      };
  }
  return null;
}
