import type { RowChange } from "../../analysis/changes/row-change.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { computed, meets, pinnedBy } from "../../analysis/views/filter.ts";
import { knownUpdatability } from "../../analysis/views/updatability.ts";
import { shownName, type View } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
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
      if (found.through[action] !== "view") return null;
      const given = action === "insert" ? (firing.columns ?? relation.columns) : null;
      const values = withComputed(firing, relation);
      if (values.size === 0 && !given) return null;
      // A column that the view lacks is refused as such.
      if (given?.some((column) => !relation.columns?.includes(column))) return null;
      const broken = meets(relation, { values, given }, catalog, dialect);
      if (!broken) return null;
      const shown = shownName(relation);
      const refused = broken.checked;
      return {
        weight: refused ? "stop" : "ask",
        refused: refused !== null,
        message: refused
          ? `The check option of \`${refused}\` refuses this: the row would leave the view.`
          : `After this the row is ${given ? "not" : "no longer"} in \`${shown}\`.`,
        because: [
          `\`${broken.view}\` shows rows where ${broken.condition}`,
          `this ${broken.set.startsWith("no ") ? "gives" : "sets"} ${broken.set}`,
        ],
        remedy: refused
          ? "Write the base table if the row is meant to leave the view."
          : "Look for it in the base table afterwards.",
      };
    }

    /** The values that are the same for every row, those that are worked out from what the view's filter pins among them. */
    function withComputed({ change, values }: RowChange, view: View): RowChange["values"] {
      if (!catalog || change?.statement.kind !== "update") return values;
      const pinned = pinnedBy(view, catalog, dialect);
      if (pinned.size === 0) return values;
      const all = new Map(values);
      for (const { targets, value, op } of change.statement.assignments) {
        const [target] = targets;
        if (op !== "=" || targets.length !== 1 || target.kind !== "column") continue;
        const column = foldName(target.path[target.path.length - 1], dialect);
        const known = all.has(column) ? null : computed(value, pinned);
        if (known) all.set(column, known);
      }
      return all;
    }
  },
};
