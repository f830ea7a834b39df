import { assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import type { Hazard } from "../hazard.ts";

/** Functions that give their argument back unchanged when they find nothing to do. */
const FINDERS =
  /^(?:replace|regexp_replace|translate|stuff|json_replace|json_remove|json_set|jsonb_set|json_modify|trim|ltrim|rtrim|btrim|overlay)$/i;

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
      ({ column, value }) =>
        value.kind === "call" &&
        FINDERS.test(value.name.parts[value.name.parts.length - 1].text) &&
        value.args.some((arg) => usedColumn(arg, names)?.name === column.name),
    );
    const [first] = finders;
    if (!first) return [];
    // Every assignment has its part: a row is left out only where none of them changes anything.
    const all = finders.length === tree.assignments.length;
    const test = finders
      .map(({ target, value }) => `${slice(target.start, target.end)} <> ${slice(value.start, value.end)}`)
      .join(" OR ");
    const comparable = finders.every(({ column }) => !/json|xml|text$|clob/i.test(column.offered?.column?.type ?? ""));
    const plain = all && comparable && test.length < LONGEST && filter === "absent";
    const ends = tree.from.length === 0 && tree.orderBy.length === 0 && !tree.limit && !tree.returning;
    const { end } = tree;
    const edits = [{ ...region({ start: end, end }), text: ` WHERE ${test}` }];
    return [
      {
        ...(plain && ends ? { fix: { title: "Write only the rows that change", edits } } : {}),
        message: `Every row of \`${judged.target}\` is written, although \`${show(first.value)}\` changes only the few in which it finds something.`,
        because: [
          "the function stands where a filter should",
          "rows in which nothing is found are written with the value they had",
        ],
        remedy: plain ? `Add WHERE ${test}` : "Add a filter that asks for what the function looks for.",
      },
    ];
  },
};

/** A filter that is longer than this is told in words. */
const LONGEST = 300;
