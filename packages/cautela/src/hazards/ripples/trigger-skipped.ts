import { Trait } from "../../analysis/statement/traits.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A trigger that one would expect to fire, and that does not.
 *
 * @example
 * TRUNCATE mooring;   -- the trigger that writes down deleted moorings fires for DELETE only
 */
export const triggerSkipped: Hazard = {
  id: "trigger-skipped",
  family: "ripples",
  weight: "ask",
  depends: ["names"],
  needs: Trait.ripple,
  title: "A trigger that does not fire",
  explanation:
    "TRUNCATE fires no DELETE triggers; in MySQL and MariaDB the rows that a foreign key deletes or changes fire none either; a trigger may be " +
    "disabled, or kept from firing by session_replication_role; SQLite's REPLACE fires delete triggers only under recursive_triggers; a column " +
    "list does not count columns that another trigger changes. An audit trail or a total that depends on such a trigger misses the change.",
  remedy:
    "Use the form that fires it (DELETE for TRUNCATE, an explicit DELETE of the child rows), or write by hand what it would have written.",
  example: {
    dialect: "mariadb",
    ddl: `CREATE TABLE mooring (mooring_id int PRIMARY KEY);
CREATE TABLE pilotage (pilotage_id int PRIMARY KEY, mooring_id int NOT NULL, FOREIGN KEY (mooring_id) REFERENCES mooring (mooring_id) ON DELETE CASCADE);
CREATE TABLE pilotage_log (pilotage_id int NOT NULL);
CREATE TRIGGER pilotage_gone AFTER DELETE ON pilotage FOR EACH ROW INSERT INTO pilotage_log VALUES (OLD.pilotage_id);`,
    dangerous: "DELETE FROM mooring WHERE mooring_id = 3;",
    sound: "DELETE FROM pilotage WHERE pilotage_id = 3;",
  },
  check({ ripples, history, dialect }) {
    const drafts: Draft[] = [];
    for (const { ripple } of ripples) {
      const notes = ripple.notes.filter(({ kind }) => kind === "skipped");
      for (const node of new Set(notes.map((note) => note.node))) {
        const own = notes.filter((note) => note.node === node);
        const names = [...new Set(own.map(({ name }) => name))];
        const place = ripple.nodes[node];
        // The rows of the child were deleted by hand before, with its triggers: nothing is left for the cascade.
        if (node !== 0 && history.of(place.name).some(({ action }) => action === "delete")) continue;
        drafts.push({
          cause: `${place.name} ${names.join()}`,
          message: `${listed(names)} ${names.length === 1 ? "does" : "do"} not fire for the rows of \`${place.name}\` that this ${place.action === "update" ? "changes" : "deletes"}.`,
          because: own.map(({ text }) => text),
          remedy:
            place.action === "truncate"
              ? `If its work is wanted: DELETE FROM ${place.relation?.object === "table" ? sqlWriter(dialect).table(place.relation) : place.name};`
              : node === 0
                ? "Switch it on again first, or do its work by hand."
                : `Delete or change the rows of \`${place.name}\` by a statement of their own first${dialect.engine.replaceNeedsRecursion ? ", or set recursive_triggers" : ""}.`,
        });
      }
    }
    return drafts;
  },
};
