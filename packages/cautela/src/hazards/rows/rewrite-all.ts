import { assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant, standsIn } from "../../analysis/conditions/constants.ts";
import { isClock } from "../../analysis/conditions/moving.ts";
import type { Resolution } from "../../analysis/names/resolution.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Hazard } from "../hazard.ts";

/** Functions that give their argument back unchanged when they find nothing to do. */
const FINDERS = /^(?:replace|regexp_replace|translate|stuff|json_replace|json_remove|trim|ltrim|rtrim|btrim|overlay)$/i;

/** What takes a part of a value away for good, in every row that holds it. */
const REMOVES = /^json_remove$/i;

function nameOf({ name: { parts } }: Extract<Expr, { kind: "call" }>): string {
  return parts[parts.length - 1].text;
}

function removes(value: Expr): boolean {
  return (
    value.kind === "binary" ||
    (value.kind === "call" && (REMOVES.test(nameOf(value)) || (value.args.length > 0 && removes(value.args[0]))))
  );
}

const EMPTY = "those in which it is NULL";

/** COALESCE(fee, 0) of the column itself, CASE WHEN fee IS NULL THEN 0 ELSE fee END: what has a value keeps it. */
function fillsIn(value: Expr, column: string, names: Resolution | null): boolean {
  const own = (expr: Expr | null | undefined): boolean =>
    expr !== null && expr !== undefined && usedColumn(expr, names)?.name === column;
  if (value.kind === "case") {
    const [only] = value.whens;
    return (
      value.operand === null &&
      value.whens.length === 1 &&
      only.when.kind === "is" &&
      only.when.test === "null" &&
      !only.when.negated &&
      own(only.when.operand) &&
      own(value.otherwise)
    );
  }
  return value.kind === "call" && standsIn(value) && value.args.length > 1 && own(value.args[0]);
}

/** Which rows a value changes, where it leaves the others as they are; null: it is no such function. JSON_SET writes into every row. */
function changedRows(value: Expr, column: string, names: Resolution | null): string | null {
  const own = (expr: Expr | undefined): boolean => expr !== undefined && usedColumn(expr, names)?.name === column;
  if (fillsIn(value, column, names)) return EMPTY;
  // data - 'key', data #- '{a,b}' (postgresql)
  if (value.kind === "binary")
    return (value.op === "#-" || (value.op === "-" && constant(value.right)?.type === "string")) && own(value.left)
      ? "the few in which it finds something"
      : null;
  if (value.kind !== "call") return null;
  const [inner] = value.args;
  // TRIM(REPLACE(note, 'a', 'b')), one in the other: each changes the few in which it finds something.
  const nested = inner?.kind === "call" && FINDERS.test(nameOf(inner)) && changedRows(inner, column, names) !== null;
  if (!nested && !value.args.some(own)) return null;
  const name = nameOf(value);
  if (/^(?:json_insert|jsonb_insert)$/i.test(name)) return "those that lack what it adds";
  const create = value.args[3] ? constant(value.args[3]) : null;
  const finds = /^jsonb_set$/i.test(name) ? create?.type === "boolean" && !create.value : FINDERS.test(name);
  return finds ? "the few in which it finds something" : null;
}

/**
 * A string or JSON function in the place of a filter.
 *
 * @example
 * UPDATE vessel SET note = REPLACE(note, 'Qay', 'Quay');   -- writes every row to change a few
 */
export const rewriteAll: Hazard = {
  id: "rewrite-all",
  family: "rows",
  statements: ["update"],
  weight: "ask",
  subsumes: ["every-row", "no-way-back"],
  title: "A function used as if it were the filter",
  explanation:
    "REPLACE and its like change only the values in which they find something, but without a filter every row is written all " +
    "the same: triggers fire for each, time stamps and audit trails say that everything has changed, and the count tells nothing.",
  remedy: "Add the filter that the function stands for: WHERE note LIKE '%Qay%'.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, note text);",
    dangerous: "UPDATE vessel SET note = REPLACE(note, 'Qay', 'Quay');",
    sound: "UPDATE vessel SET note = REPLACE(note, 'Qay', 'Quay') WHERE note LIKE '%Qay%';",
  },
  check({ changes, tree, names, show, slice, region }) {
    const [judged] = changes;
    if (tree.kind !== "update" || !judged || judged.softener) return [];
    const { filter } = judged.result;
    if (filter !== "absent" && filter !== "hollow") return [];
    const finders = assignedIn(tree, names).filter(
      ({ column, value }) => changedRows(value, column.name, names) !== null,
    );
    const [first] = finders;
    // Where something else is assigned as well, every row is changed by that; a stamp goes with what is written.
    const stamps = assignedIn(tree, names).filter(({ value }) => isClock(value)).length;
    if (!first || finders.length + stamps < tree.assignments.length) return [];
    const fills = finders.filter(({ column, value }) => fillsIn(value, column.name, names));
    const test = finders
      .map((one) => {
        const own = slice(one.target.start, one.target.end);
        return fills.includes(one) ? `${own} IS NULL` : `${own} <> ${slice(one.value.start, one.value.end)}`;
      })
      .join(" OR ");
    const comparable = finders.every(({ column }) => !/json|xml|text$|clob/i.test(column.offered?.column?.type ?? ""));
    const plain = comparable && test.length < LONGEST && filter === "absent";
    const ends = tree.from.length === 0 && tree.orderBy.length === 0 && !tree.limit && !tree.returning;
    const { end } = tree;
    const edits = [{ ...region({ start: end, end }), text: ` WHERE ${test}` }];
    return [
      {
        ...(plain && ends ? { fix: { title: "Write only the rows that change", edits } } : {}),
        ...(finders.some(({ value }) => removes(value)) && !judged.copy ? { weight: "stop" as const } : {}),
        ...(fills.length === finders.length ? { weight: "note" as const } : {}),
        message: `Every row of \`${judged.target}\` is written, although \`${show(first.value)}\` changes only ${changedRows(first.value, first.column.name, names)}.`,
        because: ["the function stands where a filter should", "all other rows are written with the value they had"],
        remedy: plain ? `Add WHERE ${test}` : "Add a filter that asks for what the function looks for.",
      },
    ];
  },
};

/** A filter that is longer than this is told in words. */
const LONGEST = 300;
