import { isOwn, isRelative, mentions } from "../../analysis/changes/relative-value.ts";
import { bandOf, overlap, stepped } from "../../analysis/conditions/bands.ts";
import {
  type AssignedColumn,
  assignedIn,
  type ConstantValue,
  filterParts,
  pinnedConstants,
  sameValue,
  usedColumn,
} from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { implied } from "../../analysis/conditions/filter-facts.ts";
import type { History } from "../../analysis/script/history.ts";
import { ownFacts, stepsIn } from "../../analysis/script/note-past.ts";
import { wantedOf } from "../../analysis/script/prepared.ts";
import { partedName } from "../../catalog/columns.ts";
import { foldName } from "../../catalog/names.ts";
import { namedRelation, relationKey } from "../../catalog/relation-keys.ts";
import type { Expr, InsertStatement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard, HazardContext, JudgedChange } from "../hazard.ts";

/** Columns that are counted up on purpose. */
const COUNTERS =
  /(?:^|_)(?:version|revision|rev|counter|count|cnt|seq|sequence|next|last|retries|attempts|hits|visits)(?:_|$)/i;

/** Whether the column that is assigned counts something, as its name is written. */
function isCounter({ target, column }: AssignedColumn): boolean {
  const written = target.kind === "column" ? target.path[target.path.length - 1].text : column.name;
  return COUNTERS.test(partedName({ name: written, spelling: column.offered?.column?.spelling ?? null }));
}

/**
 * A change that applies twice when it is run twice.
 *
 * @example
 * UPDATE mooring SET fee = fee * 1.05 WHERE status = 'planned';   -- run twice: 10.25 per cent
 */
export const driftsOnRerun: Hazard = {
  id: "drifts-on-rerun",
  family: "values",
  statements: ["update", "insert"],
  weight: "ask",
  title: "A change that applies again at every run",
  explanation:
    "The new value is made from the old one, so a second run changes the rows once more, and nothing in the statement tells a row that has " +
    "been changed from one that has not. It is a note when a filter keeps changed rows out, and for columns that are counters.",
  remedy: "Set the value outright, or let the filter see the change: a marker column, or the old value.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee numeric(10,2) NOT NULL, raised_on date);",
    dangerous: "UPDATE mooring SET fee = fee * 1.05 WHERE status = 'planned';",
    sound: "UPDATE mooring SET fee = 12.60 WHERE status = 'planned' AND fee = 12.00;",
  },
  check(context) {
    const { tree, names, changes, statement } = context;
    if (tree.kind === "insert") return upserts(tree, context);
    if (tree.kind !== "update") return [];
    const [judged] = changes;
    if (!judged || judged.softener || judged.result.filter === "dead") return [];
    const list = assignedIn(tree, names);
    const drafts: Draft[] = [];
    let kept = false;
    for (const given of list) {
      const { column, value, assignment } = given;
      const relative = assignment.op !== "=" || isRelative(value, column.name, context);
      // Two columns that change places are told once.
      const source: string | null = relative || kept ? null : overwrittenSource(given, list, context);
      kept ||= source !== null;
      if (!relative && !source) continue;
      const filter = filterParts(judged.change.conditions);
      const assigned = new Set(list.map((one) => one.column.name));
      // A filter on the column itself, or on one that the statement also sets, keeps changed rows out.
      const guard = filter.find(
        (part) => columnsOf(part, context).some((name) => assigned.has(name)) && leaves(part, list, context),
      );
      const counter = isCounter(given);
      const shown = `${column.name} ${assignment.op} ${context.show(value)}`;
      const repeated = statement.repeat > 1;
      const draft: Draft = {
        weight: repeated ? "stop" : guard || counter ? "note" : "ask",
        message: repeated
          ? `\`${shown}\` is run ${statement.repeat} times by the separator after it, each time on the result of the one before.`
          : `Run twice, this applies \`${shown}\` twice to \`${judged.target}\`.`,
        because: [
          source
            ? `\`${source}\` gets another value in the same statement, and a second run takes that one`
            : `the new \`${column.name}\` is made from the old one`,
          guard
            ? `\`${context.show(guard)}\` keeps rows out that have been changed`
            : "nothing in the filter tells a changed row from an unchanged one",
        ],
        remedy: guard
          ? ""
          : `Let the filter see the change: set a marker, or add the old value of \`${column.name}\` to WHERE.`,
      };
      const asked = guard || repeated ? [] : askedOf(judged, context);
      const pinned = guard || repeated ? [] : pinnedBy(filter, context);
      const asks = guard || repeated ? [] : filter.filter(asksTable);
      const { gates, at, catalog, dialect } = context;
      const waits = !guard && !repeated && asked.length + pinned.length + asks.length + gates.length > 0;
      drafts.push(
        !waits
          ? draft
          : {
              ...draft,
              settle: ({ history }) => {
                const once = history.runOnce.answered(gates, asks, at.statement, { catalog, dialect });
                if (once !== null) return { ...draft, weight: "note", because: [draft.because[0], once], remedy: "" };
                return (
                  markedLater(draft, asked, context, history) ?? passedOn(draft, pinned, context, history) ?? draft
                );
              },
            },
      );
    }
    return drafts;
  },
};

/** The column whose value is kept in this one, and which the same statement overwrites; null: there is none. */
function overwrittenSource(
  { value, column }: AssignedColumn,
  list: readonly AssignedColumn[],
  context: HazardContext,
): string | null {
  const used = usedColumn(value, context.names);
  if (!used || used.name === column.name || !isOwn(value, used.name, context)) return null;
  const at = list.findIndex((one) => one.column.name === used.name);
  const own = list.findIndex((one) => one.column.name === column.name);
  // Where assignments run from left to right, what is read has been written already.
  if (at < 0 || (context.dialect.engine.assignsInOrder && at < own)) return null;
  const given = list[at];
  // SET a = b, b = a, one after the other, leaves b as it is.
  if (context.dialect.engine.assignsInOrder && mentions(given.value, column.name, context)) return null;
  if (given.assignment.op !== "=" || mentions(given.value, used.name, context)) return null;
  return used.name;
}

/** EXISTS, IN and their opposites: what is written there later may keep a row out. */
function asksTable(part: Expr): boolean {
  const asked = part.kind === "unary" && part.op === "not" ? part.operand : part;
  return asked.kind === "exists" || (asked.kind === "in" && asked.query !== null);
}

/** Another table that a change reads, and the columns that it asks for there. */
interface Asked {
  key: string;
  shown: string;
  columns: Set<string>;
}

function askedOf({ change }: JudgedChange, { names, catalog, dialect }: HazardContext): Asked[] {
  const own = relationKey(change.name, catalog, dialect);
  const asked = new Map<string, Asked>();
  for (const { relation, node } of names?.bindings.values() ?? []) {
    if (relation?.source?.kind !== "table") continue;
    const { key, shown } = namedRelation(relation.source.name, catalog, dialect);
    if (key === own) continue;
    const known = asked.get(key) ?? { key, shown, columns: new Set() };
    known.columns.add(foldName(node.path[node.path.length - 1], dialect));
    asked.set(key, known);
  }
  return [...asked.values()];
}

/** A column of the changed table that its filter compares with one constant, or with NULL. */
interface Pinned {
  column: string;
  value: ConstantValue;
}

function pinnedBy(filter: readonly Expr[], { names }: HazardContext): Pinned[] {
  const list: Pinned[] = pinnedConstants(filter, names).flatMap(({ column, values }) =>
    values.length === 1 ? [{ column: column.name, value: values[0] }] : [],
  );
  for (const part of filter) {
    const empty = part.kind === "is" && part.test === "null" && !part.negated ? usedColumn(part.operand, names) : null;
    if (empty) list.push({ column: empty.name, value: { type: "null" } });
  }
  return list;
}

/** A later statement gives all of its rows another value for what it asks, so that a second run does not meet them. */
function passedOn(
  draft: Draft,
  pinned: readonly Pinned[],
  { at, changes, slice }: HazardContext,
  history: History,
): Draft | null {
  const own = wantedOf(changes[0].change, slice);
  const later = history.of(changes[0].target).find(({ statement, action, set, assigned, where, facts, every }) => {
    if (statement <= at.statement || action !== "update" || (where === null && facts === null && !every)) return false;
    // It meets all rows of this one.
    for (const [column, value] of where ?? [])
      if (!pinned.some((one) => one.column === column && sameValue(one.value, value))) return false;
    if (facts && !facts.every((one) => implied(one, own))) return false;
    return pinned.some(({ column, value }) => {
      const given = set.get(column);
      // The time of the change, where there was none.
      if (given === undefined) return value.type === "null" && assigned.has(column);
      return !sameValue(given, value);
    });
  });
  if (!later) return null;
  return {
    ...draft,
    weight: "note",
    because: [draft.because[0], `${later.place} changes what its filter asks`],
    remedy: "",
  };
}

/** What a later statement does to the rows that it was made from, a second run sees: it clears them, or marks them as done. */
function markedLater(draft: Draft, asked: readonly Asked[], { at }: HazardContext, history: History): Draft | null {
  for (const { key, shown, columns } of asked) {
    const marking = history
      .of(shown)
      .find(
        ({ statement, assigned }) => statement > at.statement && [...assigned.keys()].some((one) => columns.has(one)),
      );
    if (!marking && history.touched(key).removed <= at.statement) continue;
    const by = marking
      ? `${marking.place} changes what it asks of \`${shown}\``
      : `the rows of \`${shown}\` are removed after it`;
    return { ...draft, weight: "note", because: [draft.because[0], by], remedy: "" };
  }
  return null;
}

/** The branch of an upsert that goes on from what is there: each run adds again. */
function upserts(tree: InsertStatement, context: HazardContext): Draft[] {
  const drafts: Draft[] = [];
  for (const given of assignedIn(tree, context.names)) {
    const { column, value, assignment } = given;
    if (assignment.op === "=" && !isRelative(value, column.name, context)) continue;
    const shown = `${column.name} ${assignment.op} ${context.show(value)}`;
    drafts.push({
      weight: isCounter(given) ? "note" : "ask",
      message: `Run twice, this applies \`${shown}\` twice to the rows that are there.`,
      because: [`the new \`${column.name}\` is made from the old one`, "the second run finds the rows of the first"],
      remedy: `Write the new value alone, or let a condition of the update see the change.`,
    });
  }
  return drafts;
}

/** Whether a row that met a condition no longer meets it once it is changed. */
function leaves(part: Expr, list: readonly AssignedColumn[], context: HazardContext): boolean {
  if (part.kind === "in") return leavesList(part, list, context);
  if (part.kind === "between") {
    const within = usedColumn(part.operand, context.names)?.name;
    const moved = list.find(({ column }) => column.name === within);
    return part.negated || !moved || !staysIn(moved.column.name, context);
  }
  if (part.kind !== "binary") return true;
  const flipped = constant(part.left) !== null;
  const [side, other] = flipped ? [part.right, part.left] : [part.left, part.right];
  const name = usedColumn(side, context.names)?.name;
  const bound = constant(other);
  const given = list.find(({ column }) => column.name === name);
  if (!given || !bound) return true;
  const set = given.assignment.op === "=" ? constant(given.value) : null;
  // WHERE state = 'open' SET state = 'open': it stays.
  if (part.op === "=" && set) return !sameValue(set, bound);
  const up = grows(given);
  if (up === null || part.op === "=") return true;
  const low = flipped ? part.op.startsWith("<") : part.op.startsWith(">");
  const high = flipped ? part.op.startsWith(">") : part.op.startsWith("<");
  if ((low && !high && up) || (high && !low && !up)) return false;
  return !staysIn(given.column.name, context);
}

/** WHERE fee < 100 SET fee = fee * 1.1: of the numbers from nought on that meet the filter, some meet it again. */
function staysIn(column: string, context: HazardContext): boolean {
  const { tree, changes } = context;
  const step = tree.kind === "update" ? stepsIn(tree, context).get(column) : undefined;
  const own = step && ownFacts(tree, changes[0].change, context);
  const band = own && bandOf(own, column);
  if (!step || !band) return false;
  const counted = band.high > 0 && band.low < 0 ? { ...band, low: 0, lowOpen: false } : band;
  return overlap(stepped(counted, step), counted);
}

/** WHERE state IN (1, 2) SET state = CASE state WHEN 1 THEN 2 WHEN 2 THEN 3 END: a value that is given is in the list as well. */
function leavesList(
  { operand, items, negated }: Extract<Expr, { kind: "in" }>,
  list: readonly AssignedColumn[],
  { names }: HazardContext,
): boolean {
  const name = usedColumn(operand, names)?.name;
  const given = list.find(({ column }) => column.name === name)?.value;
  if (negated || !items || given?.kind !== "case") return true;
  const results = given.whens.map(({ result }) => constant(result));
  const known = items.map(constant);
  return !results.some((result) => result !== null && known.some((one) => one !== null && sameValue(one, result)));
}

/** Whether a relative value is larger than the old one; null where that is not known. */
function grows({ value, assignment }: AssignedColumn): boolean | null {
  const op = assignment.op === "=" ? (value.kind === "binary" ? value.op : "") : assignment.op.slice(0, 1);
  const by =
    assignment.op !== "="
      ? constant(value)
      : value.kind === "binary"
        ? (constant(value.right) ?? constant(value.left))
        : null;
  if (by?.type !== "number") return null;
  if (op === "+") return by.value > 0;
  if (op === "-") return by.value < 0;
  if (op === "*") return by.value > 1;
  return op === "/" ? by.value < 1 : null;
}

function columnsOf(expr: Expr, { names }: HazardContext): string[] {
  const list: string[] = [];
  walk(expr, (node) => {
    if (node.kind === "query") return false;
    if (node.kind === "column") list.push(usedColumn(node, names)?.name ?? "");
    return undefined;
  });
  return list;
}
