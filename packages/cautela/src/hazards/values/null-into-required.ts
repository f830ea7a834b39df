import { mustBeGiven } from "../../analysis/changes/required.ts";
import { assignedIn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/truth.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnLike } from "../../catalog/columns.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * NULL for a column that may not be NULL.
 *
 * @example
 * UPDATE mooring SET status = NULL WHERE mooring_id = 3;
 */
export const nullIntoRequired: Hazard = {
  id: "null-into-required",
  family: "values",
  statements: ["update", "insert", "merge"],
  weight: "stop",
  depends: ["names"],
  needs: Trait.null,
  title: "NULL for a column that may not be NULL",
  explanation:
    "The column is declared NOT NULL, and the statement writes NULL into it: the engine refuses the whole statement. MySQL and MariaDB without " +
    "strict mode write 0 or an empty text instead, which is worse.",
  remedy: "Write the value that stands for nothing in this column, or leave the column out.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, to_day date);",
    dangerous: "UPDATE mooring SET status = NULL WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET to_day = NULL WHERE mooring_id = 3;",
  },
  check({ tree, names, changes, dialect, inserted }) {
    const drafts: Draft[] = [];
    const say = (column: string, table: string, byDefault: boolean): void => {
      drafts.push({
        message: `\`${column}\` of \`${table}\` may not be NULL${byDefault ? " and has no default" : ""}, so the engine refuses this.`,
        refused: true,
        because: [`\`${column}\` is declared NOT NULL`],
        remedy: "Write a value, or leave the column out if it has a default.",
      });
    };
    for (const { column, value } of assignedIn(tree, names)) {
      const byDefault = isDefault(value);
      if (!byDefault && constant(value)?.type !== "null") continue;
      const table = column.relation?.table ?? changes[0]?.change.table;
      const known = column.offered?.column ?? columnLike(table, column.name);
      if (!known?.required || (byDefault && !(table && mustBeGiven(known, table, dialect)))) continue;
      say(column.name, column.relation?.table?.name ?? changes[0]?.target ?? "", byDefault);
    }
    if (inserted?.table) {
      const { table, columns } = inserted;
      columns.forEach((column, i) => {
        if (!column?.required || column.identity !== null) return;
        // The row's number is made up where NULL is given (sqlite), and so is a time stamp (mysql).
        if (dialect.engine.rowidKey && table.primaryKey?.columns.includes(column.name)) return;
        if (dialect.engine.stampsTimestamps && column.type === "timestamp") return;
        const values = inserted.rows.map((row) => row[i]).filter((one) => one !== undefined);
        if (values.some((one) => constant(one)?.type === "null")) say(column.name, table.name, false);
        else if (values.some(isDefault) && mustBeGiven(column, table, dialect)) say(column.name, table.name, true);
      });
    }
    return drafts;
  },
};

/** DEFAULT; MariaDB's IGNORE leaves the value as it is. */
function isDefault(value: Expr): boolean {
  return value.kind === "literal" && value.type === "default" && value.value === "";
}
