import { Trait } from "../../analysis/statement/traits.ts";
import { knownUpdatability } from "../../analysis/views/updatability.ts";
import { shownName } from "../../catalog/model.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A column of a view that is computed, or belongs to the wrong side of its join.
 *
 * @example
 * UPDATE berth_list SET label = 'N3' WHERE berth_id = 3;   -- label is quay || code
 */
export const sealedColumn: Hazard = {
  id: "sealed-column",
  family: "views",
  weight: "stop",
  depends: ["names"],
  needs: Trait.ripple,
  statements: ["insert", "update", "merge"],
  title: "A column of a view that cannot be written",
  explanation:
    "A view can be writable although some of its columns are not: those that are computed, constants, and (in a join) those of the table whose " +
    "rows the join repeats. The engine refuses a statement that gives one of them a value.",
  remedy: "Leave the column out, or write the columns from which it is made in the base table.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE berth (berth_id integer PRIMARY KEY, quay varchar(10) NOT NULL, code varchar(10) NOT NULL);
CREATE VIEW berth_list AS SELECT berth_id, code, quay || '-' || code AS label FROM berth;`,
    dangerous: "UPDATE berth_list SET label = 'N-3' WHERE berth_id = 3;",
    sound: "UPDATE berth_list SET code = '3' WHERE berth_id = 3;",
  },
  check({ catalog, dialect, ripples }) {
    if (!catalog) return [];
    const drafts: Draft[] = [];
    for (const { firing } of ripples) {
      if (firing.relation?.object !== "view" || firing.action === "delete" || firing.action === "truncate") continue;
      const found = knownUpdatability(firing.relation, catalog, dialect);
      if (!found.known || (found.through[firing.action] !== "view" && !found.alone)) continue;
      const written = firing.columns ?? (firing.action === "insert" ? found.columns.map(({ name }) => name) : []);
      for (const name of new Set(written)) {
        const column = found.columns.find((one) => one.name === name);
        if (!column?.reason) continue;
        drafts.push({
          message: `The engine refuses to write \`${name}\` of the view \`${shownName(firing.relation)}\`: ${column.reason}.`,
          refused: true,
          because: [column.reason],
          remedy: column.base
            ? `Write \`${column.base.column}\` of \`${shownName(column.base.table)}\` itself.`
            : "Leave it out, and write the columns from which it is made.",
        });
      }
    }
    return drafts;
  },
};
