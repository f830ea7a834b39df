import { Trait } from "../../analysis/statement/traits.ts";
import { tableKey } from "../../catalog/keys.ts";
import { shownName, shownTrigger } from "../../catalog/model.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * A trigger that may refuse the change, or drop the row without a word.
 *
 * @example
 * UPDATE mooring SET status = 'lying' WHERE mooring_id = 3;   -- refused where the berth is taken
 */
export const triggerBlocks: Hazard = {
  id: "trigger-blocks",
  family: "ripples",
  weight: "ask",
  depends: ["names"],
  needs: Trait.ripple,
  title: "A trigger may refuse the change",
  explanation:
    "A trigger raises an error under a condition, and the whole statement fails; or it drops the row silently (RETURN NULL in a BEFORE trigger, " +
    "RAISE(IGNORE), a rule that does nothing instead), and the statement succeeds without having written. A refusal that the data decides is noted; " +
    "rows dropped silently are asked about; what happens for sure stops. A condition on columns that the statement leaves alone is quiet.",
  remedy:
    "Count the rows that would be refused with the trigger's own condition, and compare the number of rows changed with the number expected.",
  example: {
    dialect: "sqlite",
    ddl: `CREATE TABLE berth (berth_id INTEGER PRIMARY KEY, depth_m integer NOT NULL, code text NOT NULL);
CREATE TRIGGER berth_kept BEFORE UPDATE OF depth_m ON berth WHEN NEW.depth_m < 0 BEGIN SELECT RAISE(IGNORE); END;`,
    dangerous: "UPDATE berth SET depth_m = depth_m - 4 WHERE berth_id = 3;",
    sound: "UPDATE berth SET code = 'N3' WHERE berth_id = 3;",
  },
  check(context) {
    const { ripples } = context;
    const drafts: Draft[] = openOutput(context);
    for (const { ripple, firing } of ripples) {
      for (const { kind, name, text, certain, node } of ripple.notes) {
        if (kind !== "refuses" && kind !== "swallows") continue;
        const place = ripple.nodes[node];
        const sure = certain && firing.certain && node === 0;
        const said = text !== "" && kind === "refuses" ? ` ("${text}")` : "";
        const swallows = kind === "swallows";
        drafts.push({
          cause: `${name} ${kind} ${text}`,
          weight: sure ? "stop" : swallows ? "ask" : "note",
          refused: sure && !swallows,
          message: swallows
            ? `\`${name}\` ${sure ? "drops" : "may drop"} the change of \`${place.name}\` silently: the statement succeeds and the row stays as it was.`
            : `\`${name}\` ${sure ? "refuses" : "may refuse"} this change of \`${place.name}\`${said}.`,
          because: [
            swallows ? text : `it raises an error${said}`,
            sure ? "nothing that it asks for can be otherwise here" : "its condition depends on the data",
          ],
          remedy: swallows
            ? "Compare the number of rows changed with the number expected."
            : "Look for rows that meet its condition before.",
        });
      }
    }
    return drafts;
  },
};

/** OUTPUT without INTO is refused where a trigger fires (learn.microsoft.com, "OUTPUT clause", error 334). */
function openOutput({ tree, changes, catalog, dialect, inserted }: HazardContext): Draft[] {
  if (!dialect.engine.outputNeedsInto || !catalog) return [];
  if (tree.kind !== "update" && tree.kind !== "delete" && tree.kind !== "insert") return [];
  if (!tree.returning || tree.returning.into) return [];
  const table = tree.kind === "insert" ? inserted?.table : changes[0]?.change.table;
  const [trigger] = table
    ? catalog
        .triggersOf(tableKey(table.schema, table.name))
        .filter(({ events, enabled }) => events.includes(tree.kind) && enabled !== "off")
    : [];
  if (!table || !trigger) return [];
  return [
    {
      weight: "stop",
      refused: true,
      message: `\`${shownName(table)}\` has a trigger, \`${shownTrigger(trigger)}\`, so the engine refuses OUTPUT without INTO.`,
      because: ["rows are shown by OUTPUT before the trigger has run, so they may not be what is stored"],
      remedy: "Write OUTPUT … INTO a table variable, and read that.",
    },
  ];
}
