import { Trait } from "../../analysis/statement/traits.ts";
import type { Hazard } from "../hazard.ts";
import { allRows, verb } from "../wording.ts";

/**
 * An UPDATE, DELETE or TRUNCATE that nothing limits.
 *
 * @example
 * UPDATE mooring SET fee = fee * 1.05;   -- stop: changes all rows of `mooring`
 */
export const everyRow: Hazard = {
  id: "every-row",
  family: "rows",
  weight: "stop",
  subsumes: ["no-way-back"],
  depends: ["code"],
  needs: Trait.change,
  title: "Every row of the table",
  explanation:
    "The statement has no filter, so it reaches every row of a table that lasts. Most often the WHERE was forgotten, " +
    "or only a part of the statement was run. It is quiet for tables that the script itself created, for temporary " +
    "tables, for data that the policy calls scratch or log, and for a column that the script has just added and fills.",
  remedy:
    "Add the filter that names the rows you mean. If every row is meant, keep a copy of the table before and say so.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE berth (berth_id integer PRIMARY KEY, depth_m numeric(4,1) NOT NULL);",
    dangerous: "UPDATE berth SET depth_m = 4.5;",
    sound: "UPDATE berth SET depth_m = 4.5 WHERE berth_id = 3;",
  },
  check({ changes, dialect }) {
    return changes
      .filter(({ result, softener }) => result.filter === "absent" && softener === null)
      .map((judged) => {
        const { change, target, copy } = judged;
        const column = change.table?.primaryKey?.columns[0];
        const filter = column ? `WHERE ${column} = …` : "WHERE …";
        const because = [...judged.result.because];
        if (change.table?.rows) because.push(`the catalog counts about ${change.table.rows} rows in \`${target}\``);
        if (!change.table)
          because.push(`\`${target}\` is not created in this script, so it holds rows that were there before`);
        if (copy) because.push(`\`${copy}\` keeps a copy of the table, made earlier in this script`);
        const commits = change.action === "truncate" && dialect.run.structureCommits;
        if (commits) because.push(`in ${dialect.title} TRUNCATE commits by itself and cannot be rolled back`);
        return {
          weight: copy ? ("ask" as const) : ("stop" as const),
          message: `This ${verb(judged)} ${allRows(judged)}.`,
          because,
          remedy:
            change.action === "truncate"
              ? `Keep a copy of \`${target}\` first, or delete the rows you mean: DELETE FROM ${target} ${filter}`
              : `Add the filter you mean (${filter}), or keep a copy of \`${target}\` first if every row is meant.`,
        };
      });
  },
};
