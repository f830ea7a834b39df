import type { Change } from "../../analysis/changes/change.ts";
import {
  type ConstantValue,
  comparedIn,
  filterParts,
  pinnedConstants,
  pinsOf,
  sameValue,
  shownValue,
  usedColumn,
  whereParts,
} from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import type { PastChange } from "../../analysis/script/history.ts";
import { ownFacts, stepsIn } from "../../analysis/script/note-past.ts";
import { movedInto, overtaken } from "../../analysis/script/overtaken.ts";
import { namesSettings, namesVersion } from "../../analysis/script/table-class.ts";
import { namedRelation } from "../../catalog/relation-keys.ts";
import type { UpdateStatement } from "../../sql/nodes/tree.ts";
import { singleBlanks } from "../../text/blanks.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * A filter on a value that an earlier statement has overwritten.
 *
 * @example
 * UPDATE mooring SET status = 'left' WHERE status = 'lying';
 * UPDATE mooring SET fee = 0 WHERE status = 'lying';   -- there is none left
 */
export const staleFilter: Hazard = {
  id: "stale-filter",
  family: "order",
  weight: "ask",
  title: "A filter on what has just been overwritten",
  explanation:
    "An earlier statement of the script has given all rows with a value another one, and this statement looks for the old value: it finds none. " +
    "In a chain (1 becomes 2, then 2 becomes 3; fees below 100 are raised, then those from 100 on) it is the other way round: the second " +
    "statement catches the rows of the first as well.",
  remedy: "Change the order of the statements, or do it in one with CASE.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, note text);",
    dangerous:
      "UPDATE mooring SET status = 'left' WHERE status = 'lying';\nUPDATE mooring SET note = 'closed' WHERE status = 'lying';",
    sound:
      "UPDATE mooring SET note = 'closed' WHERE status = 'lying';\nUPDATE mooring SET status = 'left' WHERE status = 'lying';",
  },
  check(context) {
    const { changes, names, history, found, catalog, dialect, line } = context;
    const drafts: Draft[] = copiedTooLate(context);
    if (changes.length > 0)
      for (const { body } of found.queries) {
        // A subquery that asks another table for a value that is no longer there.
        const source = body.kind === "select" && body.from.length === 1 ? body.from[0] : null;
        if (body.kind !== "select" || !body.where || source?.kind !== "table") continue;
        const { shown } = namedRelation(source.name, catalog, dialect);
        const past = history.of(shown);
        if (past.length === 0) continue;
        for (const { column, values } of pinnedConstants(whereParts({ where: body.where }), names)) {
          const earlier = values.length === 1 ? overwritten(past, column.name, values[0]) : null;
          if (!earlier) continue;
          drafts.push({
            message: `The subquery on line ${line(body.start)} finds no row of \`${shown}\` with \`${column.name}\` = ${shownValue(values[0])} any more: ${earlier.place} has made it ${shownValue(earlier.written)}.`,
            because: [
              `the statement on ${earlier.place} changes every row with ${shownValue(values[0])}`,
              "what it has overwritten can no longer be found",
            ],
            remedy: `Move this statement before ${earlier.place}, or ask for ${shownValue(earlier.written)} if those rows are meant.`,
          });
        }
      }
    for (const { change, target, result } of changes) {
      if (result.filter === "dead" || change.action === "truncate") continue;
      drafts.push(...joined(change, context));
      if (history.of(target).length === 0) continue;
      const compared = comparedBefore(change, target, context);
      const pinned = pinnedBefore(change, target, context, compared?.gone ?? false);
      drafts.push(...(pinned.length > 0 || !compared ? pinned : [compared.draft]));
    }
    return drafts;
  },
};

/** What an earlier change of the table has done to the rows that the filter asks for, by all of its conditions. */
function comparedBefore(
  change: Change,
  target: string,
  context: HazardContext,
): { draft: Draft; gone: boolean } | null {
  const { history, tree, show } = context;
  const past = history.of(target);
  if (!past.some((earlier) => mayMatter(earlier, change, context))) return null;
  const own = ownFacts(tree, change, context);
  if (!own) return null;
  const gone = overtaken(own, past);
  if (gone) {
    const { by, column } = gone;
    const written = column === null ? undefined : by.set.get(column);
    const how =
      column === null
        ? "deleted them"
        : written === undefined
          ? `moved \`${column}\` out of it in all of them`
          : `made \`${column}\` ${shownValue(written)} in all of them`;
    return {
      gone: true,
      draft: {
        message: `No row of \`${target}\` meets this filter any more: ${by.place} has ${how}.`,
        because: [`every row that meets it met the filter on ${by.place} as well`, "no row has been added in between"],
        remedy: `Move this statement before ${by.place}, or leave it out.`,
      },
    };
  }
  const moved = tree.kind === "update" ? movedInto(own, stepsIn(tree, context), past) : null;
  if (!moved || isVersion(target, moved.column)) return null;
  const { by, column, step } = moved;
  const filter = change.conditions.map(({ expr }) => show(expr)).join(" AND ");
  return {
    gone: false,
    draft: {
      message: `Rows of \`${target}\` whose \`${column}\` ${by.place} has just ${step.op === "=" ? `made ${step.by} meet this filter as well, and are` : "moved may meet this filter as well, and be"} changed twice.`,
      because: [
        `${by.place} changes rows that \`${filter}\` leaves out, and ${step.op === "=" ? "gives" : "may give"} them a \`${column}\` that it admits`,
        `this statement changes \`${column}\` once more`,
      ],
      remedy: `Run this statement before ${by.place}, or write both as one CASE.`,
    },
  };
}

/** Whether an earlier change has deleted rows, or written a column that the filter asks for, as far as it is seen at a glance. */
function mayMatter(
  { action, set, steps, assigned }: PastChange,
  { conditions }: Change,
  { names }: HazardContext,
): boolean {
  if (action === "delete") return true;
  if (set.size === 0 && steps.size === 0) return false;
  return filterParts(conditions).some((part) => {
    const used = comparedIn(part).flatMap((operand) => usedColumn(operand, names)?.name ?? []);
    return used.length === 0 || used.some((name) => assigned.has(name));
  });
}

/** The same for conditions that pin a column to one value. */
function pinnedBefore(change: Change, target: string, context: HazardContext, gone: boolean): Draft[] {
  const { names, history, tree } = context;
  const drafts: Draft[] = [];
  const pinned = pinsOf(change.conditions, names);
  if (pinned.length === 0) return drafts;
  const past = history.of(target);
  const said = new Set<string>();
  for (const { column, values } of pinned) {
    if (values.length !== 1 || !history.hasAssigned(target, column.name) || said.has(column.name)) continue;
    said.add(column.name);
    const [value] = values;
    // The latest statement that said something about this value of the column.
    for (let i = past.length - 1; i >= 0; i--) {
      const earlier = past[i];
      if (earlier.action !== "update" || !earlier.set.has(column.name)) {
        if (earlier.assigned.has(column.name)) break;
        continue;
      }
      const written = earlier.set.get(column.name);
      if (!written) break;
      const old = earlier.where?.get(column.name);
      const whole = earlier.where !== null && earlier.where.size === 1 && old !== undefined;
      if (whole && old && sameValue(old, value) && !sameValue(written, value)) {
        drafts.push({
          message: `No row of \`${target}\` has \`${column.name}\` = ${shownValue(value)} any more: ${earlier.place} has made it ${shownValue(written)}.`,
          because: [
            `the statement on ${earlier.place} changes every row with ${shownValue(value)}`,
            "what it has overwritten can no longer be found",
          ],
          remedy: `Move this statement before ${earlier.place}, or filter by ${shownValue(written)} if those rows are meant.`,
        });
        break;
      }
      // 1 becomes 2, then 2 becomes 3.
      // A version is moved on step by step.
      const moves = tree.kind === "update" && assignsConstant(tree, column.name) && !isVersion(target, column.name);
      const back = tree.kind === "update" && old !== undefined && writesValue(tree, column.name, old);
      if (
        !gone &&
        whole &&
        old &&
        sameValue(written, value) &&
        !sameValue(old, written) &&
        moves &&
        (back || sameOrder(old, written))
      ) {
        drafts.push({
          message: `The rows that ${earlier.place} has just moved from ${shownValue(old)} to ${shownValue(written)} are moved ${back ? "back" : "on"} by this statement.`,
          because: [
            `it takes every row of \`${target}\` with \`${column.name}\` = ${shownValue(value)}, those of ${earlier.place} among them`,
          ],
          remedy: `Run this statement before ${earlier.place}, or write both as one CASE.`,
        });
        break;
      }
      if (sameValue(written, value)) break;
    }
  }
  return drafts;
}

/** Whether a column holds the version of the whole. */
function isVersion(target: string, column: string): boolean {
  return namesVersion(target) || (namesSettings(target) && /version/i.test(column));
}

/** INSERT … SELECT, or a copy, of rows that a statement before has deleted by the same filter: a move in the wrong order. */
function copiedTooLate({ tree, timeline, history, catalog, dialect, slice }: HazardContext): Draft[] {
  const query = tree.kind === "insert" ? tree.source : tree.kind === "create-table" ? tree.query : null;
  const body = query?.body;
  if (body?.kind !== "select" || body.from.length !== 1 || timeline.destructions.length === 0) return [];
  const [source] = body.from;
  if (source.kind !== "table") return [];
  const { key, shown } = namedRelation(source.name, catalog, dialect);
  const asked = body.where ? singleBlanks(slice(body.where.start, body.where.end)).toLowerCase() : "";
  for (let i = timeline.destructions.length - 1; i >= 0; i--) {
    const lost = timeline.destructions[i];
    if (lost.key !== key) continue;
    if (lost.undone || (lost.action !== "delete" && lost.action !== "truncate")) return [];
    const whole = lost.action === "truncate" || lost.reach.bound === "every";
    const same = asked !== "" && lost.filterText.toLowerCase() === asked;
    if ((!whole && !same) || history.touched(key).brought > lost.at.statement) return [];
    const line = lost.at.region.line;
    return [
      {
        weight: lost.span?.end === "rollback" ? "note" : "stop",
        message: `Nothing is copied: line ${line} has deleted the rows of \`${shown}\` that this asks for.`,
        because: [
          whole ? `line ${line} deletes every row` : `the statement on line ${line} has the same filter`,
          "no row has been added in between",
        ],
        remedy: `Put this statement before line ${line}.`,
      },
    ];
  }
  return [];
}

/** A column of a joined table that is asked for a value which is no longer there. */
function joined({ conditions, relation }: Change, { names, history, catalog, dialect }: HazardContext): Draft[] {
  const drafts: Draft[] = [];
  for (const { column, values } of pinsOf(conditions, names)) {
    const source = column.relation?.source;
    if (values.length !== 1 || source?.kind !== "table" || source === relation?.source) continue;
    const { shown } = namedRelation(source.name, catalog, dialect);
    const earlier = overwritten(history.of(shown), column.name, values[0]);
    if (!earlier) continue;
    drafts.push({
      message: `No row of \`${shown}\` has \`${column.name}\` = ${shownValue(values[0])} any more: ${earlier.place} has made it ${shownValue(earlier.written)}.`,
      because: [
        `the statement on ${earlier.place} changes every row with ${shownValue(values[0])}`,
        "what it has overwritten can no longer be found",
      ],
      remedy: `Move this statement before ${earlier.place}, or ask for ${shownValue(earlier.written)} if those rows are meant.`,
    });
  }
  return drafts;
}

/** Whether SET gives a column a certain value. */
function writesValue(tree: UpdateStatement, column: string, value: ConstantValue): boolean {
  return tree.assignments.some(({ targets: [target], value: given }) => {
    const known = constant(given);
    return (
      known !== null &&
      target.kind === "column" &&
      target.path[target.path.length - 1].text.toLowerCase() === column &&
      sameValue(known, value)
    );
  });
}

function assignsConstant(tree: Extract<HazardContext["tree"], { kind: "update" }>, column: string): boolean {
  return tree.assignments.some(
    ({ targets, value }) =>
      value.kind === "literal" &&
      targets.some((one) => one.kind === "column" && one.path[one.path.length - 1].text.toLowerCase() === column),
  );
}

/** Numbers, codes with numbers: what is renumbered in a chain, as against a mark that is set to be found again. */
function sameOrder(a: { type: string; value?: unknown }, b: { type: string; value?: unknown }): boolean {
  return a.type === b.type && (a.type === "number" || (/\d/.test(String(a.value)) && /\d/.test(String(b.value))));
}

/** Where all rows with a value were given another one, and nothing has brought it back. */
function overwritten(
  past: readonly PastChange[],
  column: string,
  value: ConstantValue,
): { place: string; written: ConstantValue } | null {
  for (let i = past.length - 1; i >= 0; i--) {
    const earlier = past[i];
    if (!earlier.assigned.has(column)) continue;
    const written = earlier.set.get(column);
    const old = earlier.where?.get(column);
    const whole = earlier.action === "update" && earlier.where?.size === 1 && old !== undefined;
    if (!written || !whole || !sameValue(old, value) || sameValue(written, value)) return null;
    return { place: earlier.place, written };
  }
  return null;
}
