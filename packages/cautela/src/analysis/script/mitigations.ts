import type { Catalog } from "../../catalog/catalog.ts";
import { foldName } from "../../catalog/names.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Policy } from "../../policy/policy.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Assignment, Expr } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { assignedColumns } from "../changes/assigned-columns.ts";
import type { Change } from "../changes/change.ts";
import { isConstantValue } from "../changes/constant-rows.ts";
import { calledName, constant } from "../conditions/constants.ts";
import type { Creations } from "./creations.ts";
import {
  holdsOneRow,
  isVersionColumn,
  namesSequence,
  namesSettings,
  namesSystem,
  namesVersion,
  policyClass,
} from "./table-class.ts";

/** Why a change of every row does no harm. */
export interface Mitigation {
  /** `fresh`: made in this script; `temporary`; a class that the policy gives; `backfill`; `single-row`: a literal for it. */
  kind: "fresh" | "temporary" | "scratch" | "log" | "regenerable" | "backfill" | "single-row";
  text: string;
}

/** What softens a finding about a change; null: nothing. `shown` is the target as messages name it. */
export function mitigation(
  change: Change,
  shown: string,
  creations: Creations,
  catalog: Catalog | null,
  dialect: Dialect,
  policy: Policy,
): Mitigation | null {
  const last = change.name.parts[change.name.parts.length - 1].text;
  const key = relationKey(change.name, catalog, dialect);
  const made = creations.made(key);
  if (made === "temporary" || change.table?.temporary || last.startsWith("#") || last.startsWith("@"))
    return { kind: "temporary", text: `\`${shown}\` is temporary` };
  // A dump sets the counters of the tables that it has just made.
  if (last.toLowerCase() === "sqlite_sequence" && creations.some)
    return { kind: "fresh", text: "it counts for tables that were created in this script" };
  if (made === "lasting") return { kind: "fresh", text: `\`${shown}\` was created in this script` };
  const named = policy.tables && (policyClass(shown, policy) ?? policyClass(last, policy));
  if (named === "scratch" || named === "log" || named === "regenerable")
    return { kind: named, text: `the policy calls \`${shown}\` ${named} data` };
  if (change.statement.kind === "update" && writesLiterals(change.statement.assignments, dialect)) {
    const columns = assignedColumns(change.statement.assignments);
    if (named === "single-row" || holdsOneRow(change.table ?? null))
      return { kind: "single-row", text: `\`${shown}\` holds one row` };
    // The name and the columns together say so.
    const all = change.statement.assignments;
    if (!named && namesVersion(shown) && (columns.some(isVersionColumn) || all.some(isRelease) || all.some(isNumber)))
      return { kind: "single-row", text: `\`${shown}\` holds a version, in one row` };
    // The version of the whole, whatever the table is called: UPDATE settings SET version = '2.4.1'.
    const settings =
      columns.length > 0 &&
      ((namesSettings(shown) && columns.every((column) => /version/i.test(column))) ||
        (namesSystem(shown) && columns.every((column) => /version|release/i.test(column))));
    if (!named && (settings || change.statement.assignments.every(bumpsVersion)))
      return { kind: "single-row", text: `it writes the version into \`${shown}\`` };
  }
  if (!named && change.statement.kind === "update" && namesSequence(shown) && writesHighest(change))
    return { kind: "single-row", text: `\`${shown}\` holds the last number of another table, in one row` };
  const added = creations.added(key);
  if (added && change.statement.kind === "update") {
    const columns = change.statement.assignments.flatMap((assignment) => assignment.targets);
    const backfill = columns.every(
      (column) => column.kind === "column" && added.has(foldName(column.path[column.path.length - 1], dialect)),
    );
    if (backfill) return { kind: "backfill", text: "it fills columns that have just been added" };
  }
  return null;
}

/** `version = '2.4.1'`: the number of a release, and not a row's own count of its changes. */
function bumpsVersion(assignment: Assignment): boolean {
  const { targets } = assignment;
  const [target] = targets;
  return (
    targets.length === 1 &&
    target.kind === "column" &&
    /^(?:(?:db|schema|database|data|app|program)_?)?version$/i.test(target.path[target.path.length - 1].text) &&
    isRelease(assignment)
  );
}

/** `'3.7.0'`. */
function isRelease({ value }: Assignment): boolean {
  const given = constant(value);
  return given?.type === "string" && /^v?\d+(?:\.\d+)+[-.\w]*$/.test(given.value);
}

/** `number = 37`: the name of the column is the only one that such a table can have. */
function isNumber({ targets: [target], value }: Assignment): boolean {
  return (
    target?.kind === "column" &&
    /^(?:number|num|no|nr|value|val|id)$/i.test(target.path[target.path.length - 1].text) &&
    constant(value)?.type === "number"
  );
}

/** `id = (SELECT MAX(id) FROM berth)`: what a table that stands in for a sequence is set to. */
function writesHighest({ statement, names }: Change): boolean {
  return (
    statement.kind === "update" &&
    statement.assignments.every(({ value }) => {
      if (value.kind !== "subquery" || value.query.body.kind !== "select") return false;
      const { items, where } = value.query.body;
      return where === null && items.length === 1 && holdsMaximum(items[0].expr) && !names.refersOutside(value.query);
    })
  );
}

function holdsMaximum(expr: Expr): boolean {
  let holds = false;
  walk(expr, (node) => {
    if (node.kind === "call" && /^max$/i.test(calledName(node))) holds = true;
    return !holds;
  });
  return holds;
}

/** Whether every assigned value is a literal or the time, and none of them is NULL. */
function writesLiterals(assignments: readonly Assignment[], dialect: Dialect): boolean {
  return assignments.every(
    ({ value, op }) => op === "=" && constant(value)?.type !== "null" && isConstantValue(value, dialect),
  );
}
