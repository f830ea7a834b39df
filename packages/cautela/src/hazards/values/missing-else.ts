import {
  assignedIn,
  type ConstantValue,
  filterParts,
  pinnedConstants,
  sameValue,
} from "../../analysis/conditions/conditions.ts";
import { calledName, constant, plainColumn } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnLike } from "../../catalog/columns.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Case, Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext, JudgedChange } from "../hazard.ts";

/**
 * A CASE that writes NULL where no branch matches.
 *
 * @example
 * UPDATE tariff SET fee = CASE class WHEN 'sail' THEN 10 WHEN 'motor' THEN 14 END;   -- every other class gets NULL
 */
export const missingElse: Hazard = {
  id: "missing-else",
  family: "values",
  statements: ["update"],
  weight: "ask",
  subsumes: ["case-gap"],
  needs: Trait.case | Trait.call,
  title: "A CASE without ELSE",
  explanation:
    "Where no branch matches, a CASE without ELSE is NULL, and so are an IIF without its third part and a DECODE without a default. The " +
    "rows that no branch refers to lose the value they had. It is quiet when the filter admits only what the WHEN branches cover.",
  remedy: "Add ELSE with the old value of the column, or a filter that admits only the values in the WHEN branches.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, class varchar(20) NOT NULL, crew integer);",
    dangerous: "UPDATE vessel SET crew = CASE class WHEN 'sail' THEN 2 WHEN 'motor' THEN 3 END WHERE vessel_id > 100;",
    sound:
      "UPDATE vessel SET crew = CASE class WHEN 'sail' THEN 2 WHEN 'motor' THEN 3 END WHERE class IN ('sail', 'motor');",
  },
  check(context) {
    const { tree, names, changes } = context;
    if (tree.kind !== "update") return [];
    const [judged] = changes;
    if (!judged || judged.result.filter === "dead") return [];
    const { softener } = judged;
    // NULL is what a new column held before, unless it is not to hold any.
    if (softener && softener.kind !== "backfill") return [];
    const key = relationKey(judged.change.name, context.catalog, context.dialect);
    const drafts: Draft[] = [];
    for (const { column, value, target } of assignedIn(tree, names)) {
      const open = openChoice(value, context.dialect.engine.concatBlanks);
      if (!open) continue;
      if (open.kind === "case" && (covered(open, context) || isComplete(open, judged))) continue;
      const { creations, at } = context;
      const known = columnLike(judged.change.table, column.name);
      const required = known?.required || creations.isRequired(key, column.name);
      const wide = judged.result.reach.bound === "every";
      const kept = context.show(target);
      // Inside a larger value the old one would be counted twice.
      const own = open === value && open.kind === "case" && !isElsewhere(target, context);
      const last = { start: open.end - 3, end: open.end };
      const ends = own && /^end$/i.test(context.slice(last.start, last.end));
      const edits = [{ ...context.region({ start: last.start, end: last.start }), text: `ELSE ${kept} ` }];
      const draft: Draft = {
        ...(ends ? { fix: { title: "Keep the old value where no branch matches", edits } } : {}),
        weight: required || wide || softener ? "stop" : "ask",
        message: `Rows ${open.kind === "case" ? `that no WHEN branch of \`${context.show(open)}\` matches` : `for which no condition of \`${context.show(open)}\` holds`} get NULL for \`${column.name}\`.`,
        because: [
          open.kind === "case" ? "the CASE has no ELSE" : "the function has no value for the rest",
          wide ? "the statement reaches every row" : "the filter does not admit only what the WHEN branches cover",
          ...(required || softener
            ? [
                `\`${column.name}\` may not be NULL, so the ${required || !softener ? "statement" : "script"} fails at the first such row`,
              ]
            : []),
        ],
        remedy: remedyFor(open, value, kept),
      };
      if (softener && !required)
        draft.settle = (script) => {
          const filled = script.history
            .of(judged.target)
            .some(({ statement, assigned }) => statement > at.statement && assigned.has(column.name));
          return script.creations.addedColumn(key, column.name)?.required && !filled ? draft : null;
        };
      drafts.push(draft);
    }
    return drafts;
  },
};

function isElsewhere(target: Expr, { dialect }: HazardContext): boolean {
  // SET t.a = … of a joined change: the bare name may be that of another table.
  return target.kind !== "column" || (target.path.length > 1 && !dialect.grammar.joinedUpdate);
}

function remedyFor(open: Expr, value: Expr, column: string): string {
  if (!isChosen(open, value))
    return "Give it a value for the rest that leaves the whole as it is (0 in a sum, 1 in a product).";
  return open.kind === "case"
    ? `Add ELSE ${column} to keep what is there.`
    : `Give it a last argument, ${column}, to keep what is there.`;
}

/** Whether a choice is the value itself, or one of the results of another choice. */
function isChosen(open: Expr, value: Expr): boolean {
  if (open === value) return true;
  if (value.kind === "case")
    return [...value.whens.map(({ result }) => result), value.otherwise].some((one) => one && isChosen(open, one));
  return (
    value.kind === "call" && /^ii?f$/i.test(calledName(value)) && value.args.slice(1).some((one) => isChosen(open, one))
  );
}

/** The CASE, IIF or DECODE of a value that has nothing for the rest; also inside what passes NULL on. */
function openChoice(value: Expr, concatBlanks: boolean): Expr | null {
  switch (value.kind) {
    case "case":
      if (value.otherwise === null) return value;
      for (const { result } of value.whens) {
        const found = openChoice(result, concatBlanks);
        if (found) return found;
      }
      return openChoice(value.otherwise, concatBlanks);
    case "cast":
      return openChoice(value.operand, concatBlanks);
    case "binary":
      return openChoice(value.left, concatBlanks) ?? openChoice(value.right, concatBlanks);
    case "call": {
      const name = value.name.parts[value.name.parts.length - 1].text.toLowerCase();
      if (name === "iif" && value.args.length === 2) return value;
      if (name === "iif" || name === "if") {
        const [, then, otherwise] = value.args;
        return (then && openChoice(then, concatBlanks)) ?? (otherwise ? openChoice(otherwise, concatBlanks) : null);
      }
      // SWITCH(test, value, …): a last test that is always true is its ELSE.
      if (name === "switch" && value.args.length >= 2) {
        const last = constant(value.args[value.args.length - 2]);
        return last?.type === "boolean" && last.value ? null : value;
      }
      if (name === "decode" && value.args.length >= 3 && value.args.length % 2 === 1) return value;
      // What catches a NULL makes it harmless.
      if (/^(?:coalesce|ifnull|isnull|nvl|nvl2|nz|concat_ws)$/.test(name) || (name === "concat" && !concatBlanks))
        return null;
      if (
        /^(?:json_set|json_replace|jsonb_set|upper|lower|round|abs|trim|replace|substr|substring|concat)$/.test(name)
      ) {
        for (const arg of value.args) {
          const found = openChoice(arg, concatBlanks);
          if (found) return found;
        }
      }
      return null;
    }
    default:
      return null;
  }
}

/** The one column that all branches of a CASE ask for: the first that is taken, and no other. */
class OneColumn {
  name: string | null = null;

  readonly is = (expr: Expr): boolean => {
    const ref = plainColumn(expr);
    const name = ref ? ref.path[ref.path.length - 1].text.toLowerCase() : null;
    if (name === null || (this.name !== null && this.name !== name)) return false;
    this.name = name;
    return true;
  };
}

/** The constants that the WHEN branches of a CASE compare one column with; null for any other CASE. */
export function branchValues(node: Case): { column: string; values: ConstantValue[] } | null {
  const only = new OneColumn();
  const take = only.is;
  const values: ConstantValue[] = [];
  if (node.operand && !take(node.operand)) return null;
  for (const { when } of node.whens) {
    if (node.operand) {
      const value = constant(when);
      if (!value || value.type === "null") return null;
      values.push(value);
      continue;
    }
    if (when.kind === "binary" && when.op === "=" && take(when.left)) {
      const value = constant(when.right);
      if (!value || value.type === "null") return null;
      values.push(value);
    } else if (when.kind === "in" && !when.negated && when.items && take(when.operand)) {
      for (const item of when.items) {
        const value = constant(item);
        if (!value || value.type === "null") return null;
        values.push(value);
      }
    } else return null;
  }
  return only.name === null ? null : { column: only.name, values };
}

/** Whether the filter admits only values for which there is a branch, or a branch repeats the whole filter. */
function covered(node: Case, context: HazardContext): boolean {
  const parts = filterParts(context.changes[0].change.conditions);
  // CASE WHEN a THEN … WHEN b THEN … END WHERE a OR b
  const branches = node.operand ? [] : node.whens.map(({ when }) => context.show(when).toLowerCase());
  const said = parts.flatMap((part) => (part.kind === "logic" && part.op === "or" ? [part.items] : [[part]]));
  if (
    branches.length > 0 &&
    said.some((list) => list.every((one) => branches.includes(context.show(one).toLowerCase())))
  )
    return true;
  const known = branchValues(node);
  if (!known) return false;
  return pinnedConstants(parts, context.names).some(
    ({ column, values }) =>
      column.name === known.column && values.every((value) => known.values.some((one) => sameValue(one, value))),
  );
}

/** A piece of the line of numbers; an end that is open does not belong to it. */
interface Range {
  low: number;
  lowOpen: boolean;
  high: number;
  highOpen: boolean;
}

/**
 * Whether the branches of a CASE leave out no value of a column: ranges that meet, and the column is never NULL or has a
 * branch for it; or a condition and its opposite.
 */
function isComplete(node: Case, { change }: JudgedChange): boolean {
  if (node.operand) return false;
  const only = new OneColumn();
  let none = false;
  let some = false;
  const ranges: Range[] = [];
  for (const { when } of node.whens) {
    if (when.kind === "is" && when.test === "null" && only.is(when.operand)) {
      if (when.negated) some = true;
      else none = true;
      continue;
    }
    const range = rangeOf(when, only.is);
    if (!range) return false;
    ranges.push(range);
  }
  if (only.name === null) return false;
  const known = columnLike(change.table, only.name);
  if (!(none || known?.required)) return false;
  if (some) return true;
  const whole =
    known !== undefined && known !== null && /^(?:tiny|small|medium|big)?int(?:eger)?$|^serial$/.test(known.type);
  return coversAll(ranges, whole);
}

function rangeOf(when: Expr, isColumn: (expr: Expr) => boolean): Range | null {
  const number = (expr: Expr): number | null => {
    const value = constant(expr);
    return value?.type === "number" ? value.value : null;
  };
  const { POSITIVE_INFINITY: most, NEGATIVE_INFINITY: least } = Number;
  if (when.kind === "between" && !when.negated && isColumn(when.operand)) {
    const [low, high] = [number(when.low), number(when.high)];
    return low === null || high === null ? null : { low, lowOpen: false, high, highOpen: false };
  }
  if (when.kind === "logic" && when.op === "and" && when.items.length === 2) {
    const [a, b] = when.items.map((item) => rangeOf(item, isColumn));
    if (!a || !b) return null;
    const lower = a.low > b.low || (a.low === b.low && a.lowOpen) ? a : b;
    const upper = a.high < b.high || (a.high === b.high && a.highOpen) ? a : b;
    return { low: lower.low, lowOpen: lower.lowOpen, high: upper.high, highOpen: upper.highOpen };
  }
  if (when.kind !== "binary") return null;
  const flipped = constant(when.left) !== null;
  const value = number(flipped ? when.left : when.right);
  if (value === null || !isColumn(flipped ? when.right : when.left)) return null;
  const op = flipped ? (MIRRORED[when.op] ?? when.op) : when.op;
  switch (op) {
    case "<":
    case "<=":
      return { low: least, lowOpen: true, high: value, highOpen: op === "<" };
    case ">":
    case ">=":
      return { low: value, lowOpen: op === ">", high: most, highOpen: true };
    case "=":
      return { low: value, lowOpen: false, high: value, highOpen: false };
    default:
      return null;
  }
}

const MIRRORED: Readonly<Record<string, string>> = { "<": ">", "<=": ">=", ">": "<", ">=": "<=" };

/** Whether ranges, put together, leave out no number; of whole numbers 9 and 10 meet. */
function coversAll(ranges: readonly Range[], whole: boolean): boolean {
  const sorted = [...ranges].sort((a, b) => a.low - b.low || Number(a.lowOpen) - Number(b.lowOpen));
  let end = Number.NEGATIVE_INFINITY;
  let open = false;
  for (const { low, lowOpen, high, highOpen } of sorted) {
    const meets = low < end || (low === end && !(open && lowOpen)) || (whole && !open && !lowOpen && low <= end + 1);
    if (!meets) return false;
    if (high > end || (high === end && !highOpen)) [end, open] = [high, highOpen];
  }
  return end === Number.POSITIVE_INFINITY;
}
