import { assignedIn, usedColumn } from "../../analysis/conditions/conditions.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard } from "../hazard.ts";

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
  check({ changes, tree, names, show, dialect }) {
    const [judged] = changes;
    if (tree.kind !== "update" || !judged || judged.softener) return [];
    const { filter } = judged.result;
    if (filter !== "absent" && filter !== "hollow") return [];
    const drafts: Draft[] = [];
    for (const { column, value } of assignedIn(tree, names)) {
      const call = value;
      if (call.kind !== "call" || !FINDERS.test(call.name.parts[call.name.parts.length - 1].text)) continue;
      if (!call.args.some((arg) => usedColumn(arg, names)?.name === column.name)) continue;
      const sought = call.args[1];
      const like = sought?.kind === "literal" && sought.type === "string" ? sought.value : null;
      const wild = dialect.engine.likeStar ? "*" : "%";
      drafts.push({
        message: `Every row of \`${judged.target}\` is written, although \`${show(value)}\` changes only the few in which it finds something.`,
        because: [
          "the function stands where a filter should",
          "rows in which nothing is found are written with the value they had",
        ],
        remedy:
          like !== null && /replace$/i.test(call.name.parts[call.name.parts.length - 1].text)
            ? `Add WHERE ${showArg(call.args[0], show)} LIKE '${wild}${like.replaceAll("'", "''")}${wild}'`
            : `Add WHERE ${column.name} <> ${show(value)}`,
      });
    }
    return drafts;
  },
};

function showArg(expr: Expr, show: (node: Expr) => string): string {
  return show(expr);
}
