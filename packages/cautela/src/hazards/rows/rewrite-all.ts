import { assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant, standsIn } from "../../analysis/conditions/constants.ts";
import { isClock } from "../../analysis/conditions/moving.ts";
import type { Resolution } from "../../analysis/names/resolution.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Slice } from "../../text/slice.ts";
import type { Hazard } from "../hazard.ts";

/** Functions that give their argument back unchanged when they find nothing to do. */
const FINDERS =
  /^(?:replace|regexp_replace|translate|stuff|json_replace|json_remove|trim|ltrim|rtrim|btrim|overlay|lower|upper|lcase|ucase|initcap|strconv)$/i;

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

/**
 * The conditions under which a value is another one than the column has already: those of a CASE or an IF that otherwise gives
 * the column itself; null: it is none. Empty where they cannot be written as a filter.
 */
function conditionsOf(value: Expr, column: string, names: Resolution | null, slice: Slice): string[] | null {
  const own = (expr: Expr | null | undefined): boolean => !!expr && usedColumn(expr, names)?.name === column;
  const written = ({ start, end }: Expr): string => slice(start, end);
  if (value.kind === "case") {
    const { operand, whens, otherwise } = value;
    if (!own(otherwise)) return null;
    const asked = whens.filter(({ result }) => !own(result)).map(({ when }) => when);
    if (operand) return [`${written(operand)} IN (${asked.map(written).join(", ")})`];
    return asked.map((when) => (when.kind === "logic" ? `(${written(when)})` : written(when)));
  }
  if (value.kind !== "call" || value.args.length < 3) return null;
  const { args } = value;
  const name = nameOf(value);
  if (/^(?:iif|if)$/i.test(name)) return args.length === 3 && own(args[2]) ? [written(args[0])] : null;
  if (!/^decode$/i.test(name) || args.length % 2 > 0 || !own(args[args.length - 1])) return null;
  const asked = args.filter((_, i) => i % 2 === 1 && i < args.length - 1);
  // DECODE takes NULL for equal to NULL.
  return asked.some((one) => one.kind === "literal" && one.type === "null")
    ? []
    : [`${written(args[0])} IN (${asked.map(written).join(", ")})`];
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
    "REPLACE and its like change only the values in which they find something, and a CASE that ends in ELSE with the column itself " +
    "only those that its conditions ask for, but without a filter every row is written all the same: triggers fire for each, time stamps and audit trails say that everything has changed, and the count tells nothing.",
  remedy: "Add the filter that the function stands for: WHERE note LIKE '%Qay%'.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, note text);",
    dangerous: "UPDATE vessel SET note = REPLACE(note, 'Qay', 'Quay');",
    sound: "UPDATE vessel SET note = REPLACE(note, 'Qay', 'Quay') WHERE note LIKE '%Qay%';",
  },
  check({ changes, tree, names, show, slice, region, dialect }) {
    const [judged] = changes;
    if (tree.kind !== "update" || !judged || judged.softener) return [];
    const { filter } = judged.result;
    if (filter !== "absent" && filter !== "hollow") return [];
    const finders = assignedIn(tree, names).flatMap((one) => {
      const rows = changedRows(one.value, one.column.name, names);
      const asked = rows === null ? conditionsOf(one.value, one.column.name, names, slice) : null;
      return rows === null && asked === null
        ? []
        : { ...one, asked, rows: rows ?? "those that its conditions ask for" };
    });
    const [first] = finders;
    // Where something else is assigned as well, every row is changed by that; a stamp goes with what is written.
    const stamps = assignedIn(tree, names).filter(({ value }) => isClock(value)).length;
    if (!first || finders.length + stamps < tree.assignments.length) return [];
    const fills = finders.filter(({ column, value }) => fillsIn(value, column.name, names));
    const writer = sqlWriter(dialect);
    const test = finders
      .map((one) => {
        const own = slice(one.target.start, one.target.end);
        if (fills.includes(one)) return `${own} IS NULL`;
        return (
          one.asked?.join(" OR ") ??
          writer.altered(own, slice(one.value.start, one.value.end), one.column.offered?.column)
        );
      })
      .join(" OR ");
    const comparable = finders.every(({ column: { offered } }) => {
      const known = offered?.column;
      return !known || (!/json/i.test(known.type) && writer.equatable(known));
    });
    const writable = finders.every(({ asked }) => asked?.length !== 0);
    const plain = comparable && writable && test.length < LONGEST && filter === "absent";
    const ends = tree.from.length === 0 && tree.orderBy.length === 0 && !tree.limit && !tree.returning;
    const { end } = tree;
    const edits = [{ ...region({ start: end, end }), text: ` WHERE ${test}` }];
    return [
      {
        ...(plain && ends ? { fix: { title: "Write only the rows that change", edits } } : {}),
        ...(finders.some(({ value, asked }) => asked === null && removes(value)) && !judged.copy
          ? { weight: "stop" as const }
          : {}),
        ...(fills.length === finders.length ? { weight: "note" as const } : {}),
        message: `Every row of \`${judged.target}\` is written, although \`${show(first.value)}\` changes only ${first.rows}.`,
        because: [
          first.asked
            ? "the condition stands in the value, where it limits no rows"
            : "the function stands where a filter should",
          "all other rows are written with the value they had",
        ],
        remedy: plain ? `Add WHERE ${test}` : "Add a filter that asks for what the function looks for.",
      },
    ];
  },
};

/** A filter that is longer than this is told in words. */
const LONGEST = 300;
