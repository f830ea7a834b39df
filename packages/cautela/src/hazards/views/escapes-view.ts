import type { RowChange } from "../../analysis/ripples/row-changes.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { meets } from "../../analysis/views/filter.ts";
import { knownUpdatability } from "../../analysis/views/updatability.ts";
import { shownName } from "../../catalog/model.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A row that is written through a view and does not meet the view's filter afterwards.
 *
 * @example
 * UPDATE moored_now SET status = 'left' WHERE mooring_id = 3;   -- the row leaves the view
 */
export const escapesView: Hazard = {
  id: "escapes-view",
  family: "views",
  weight: "ask",
  depends: ["names"],
  needs: Trait.ripple,
  statements: ["insert", "update", "merge"],
  title: "The row leaves the view",
  explanation:
    "The values that are written contradict the view's own filter. Without a check option the row vanishes from the view, and a second run, or the " +
    "comparison afterwards, does not find it; with WITH CHECK OPTION the engine refuses the statement.",
  remedy: "Write the base table if the row is meant to leave, or give a value that the view shows.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee numeric(10,2) NOT NULL);
CREATE VIEW lying AS SELECT mooring_id, status, fee FROM mooring WHERE status = 'lying' WITH CHECK OPTION;`,
    dangerous: "UPDATE lying SET status = 'left' WHERE mooring_id = 3;",
    sound: "UPDATE lying SET fee = 12 WHERE mooring_id = 3;",
  },
  check({ catalog, dialect, ripples }) {
    return ripples.flatMap(({ firing }) => draft(firing) ?? []);

    function draft(firing: RowChange): Draft | null {
      const { relation, action } = firing;
      if (!catalog || relation?.object !== "view" || action === "delete" || action === "truncate") return null;
      const found = knownUpdatability(relation, catalog, dialect);
      if (found.through[action] !== "view" || firing.values.size === 0) return null;
      const broken = meets(relation, firing.values, catalog, dialect);
      if (!broken) return null;
      const shown = shownName(relation);
      const refused = broken.checked;
      return {
        weight: refused ? "stop" : "ask",
        refused: refused !== null,
        message: refused
          ? `The check option of \`${refused}\` refuses this: the row would leave the view.`
          : `After this the row is no longer in \`${shown}\`.`,
        because: [`\`${broken.view}\` shows rows where ${broken.condition}`, `this sets ${broken.set}`],
        remedy: refused
          ? "Write the base table if the row is meant to leave the view."
          : "Look for it in the base table afterwards.",
      };
    }
  },
};
