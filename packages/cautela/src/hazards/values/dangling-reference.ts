import { domainOf, keyOfColumn, keyText, referenced, singleKeys } from "../../analysis/changes/references.ts";
import { storedValues } from "../../analysis/changes/stored-values.ts";
import { usedColumn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { keyParts } from "../../catalog/keys.ts";
import { shownName } from "../../catalog/model.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * A reference to a row that is not there, or to a row of another table.
 *
 * @example
 * DELETE FROM vessel WHERE vessel_id = 901;
 * UPDATE mooring SET vessel_id = 901 WHERE mooring_id = 3;   -- stop: the vessel is gone
 */
export const danglingReference: Hazard = {
  id: "dangling-reference",
  family: "values",
  statements: ["insert", "update", "merge"],
  weight: "stop",
  depends: ["names"],
  speaksLater: true,
  needs: Trait.referring,
  title: "A reference to a row that is not there",
  explanation:
    "The value goes into a foreign key, and the row with that key has been deleted further up, comes only further down, or the value is the " +
    "key of another table. Where the database checks foreign keys the statement fails, and with numbers as keys it may find a row by " +
    "chance: then nothing fails, and the reference leads to the wrong one.",
  remedy: "Bring the referenced row in first, keep it, or take the column that holds the key of the referenced table.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, name varchar(60) NOT NULL);\nCREATE TABLE mooring (mooring_id integer PRIMARY KEY, vessel_id integer REFERENCES vessel (vessel_id));",
    dangerous:
      "INSERT INTO mooring (mooring_id, vessel_id) VALUES (70, 901);\nINSERT INTO vessel (vessel_id, name) VALUES (901, 'Petrel');",
    sound:
      "INSERT INTO vessel (vessel_id, name) VALUES (901, 'Petrel');\nINSERT INTO mooring (mooring_id, vessel_id) VALUES (70, 901);",
  },
  check(context) {
    const { tree, names, catalog, dialect, history, show } = context;
    if (!names || !catalog) return [];
    const drafts: Draft[] = [];
    const said = new Set<string>();
    const put = (key: string, draft: Draft): void => {
      if (said.has(key)) return;
      said.add(key);
      drafts.push(draft);
    };
    const checked = checksKeys(context);
    for (const { table, column, value } of storedValues(tree, names, catalog, dialect)) {
      if (checked && singleKeys(table).includes(column)) broughtLate(context, table, column, value, put);
      const to = referenced(table, column, catalog);
      if (!to) continue;
      const known = constant(value);
      const key = known ? keyText(known) : null;
      if (key !== null) {
        const line = history.keys.removedOn(keyOfColumn(to.table, to.column), key);
        if (line === null || to.foreignKey.deferrable) continue;
        put(`${column} ${key}`, {
          weight: checked ? "stop" : "ask",
          message: `\`${column}\` refers to the row of \`${shownName(to.table)}\` with \`${to.column}\` = ${show(value)}, and line ${line} has deleted it.`,
          because: [
            "nothing in between brings it back",
            `\`${column}\` is a foreign key to \`${shownName(to.table)}\``,
          ],
          remedy: "Refer to a row that stays, or leave the DELETE out.",
        });
        continue;
      }
      const from = usedColumn(value, names);
      const source = from?.relation?.table;
      if (!from || !source || from.name === column) continue;
      // Where the source has a column of the very name, the look-alike is reported.
      if (tree.kind !== "insert" && from.relation?.columns?.some((one) => one.name.toLowerCase() === column)) continue;
      const mine = domainOf(table, column, catalog);
      const theirs = domainOf(source, from.name, catalog);
      if (!mine || !theirs || mine === theirs) continue;
      // Two columns of the list that have changed places are another hazard.
      if (tree.kind === "insert" && tree.columns?.some(({ parts }) => parts.at(-1)?.text.toLowerCase() === from.name))
        continue;
      put(`${column} ${from.name}`, {
        weight: "ask",
        message: `\`${column}\` refers to \`${shownName(to.table)}\`, but \`${show(value)}\` is a key of \`${shownKey(theirs.slice(0, theirs.lastIndexOf(".")))}\`.`,
        because: [
          `\`${column}\` takes values of \`${shownKey(mine)}\``,
          `\`${show(value)}\` holds values of \`${shownKey(theirs)}\``,
        ],
        remedy: `Take the column that holds the key of \`${shownName(to.table)}\`.`,
      });
    }
    return drafts;
  },
};

/** A key of a table, or one with a column after it, as people write it. */
function shownKey(key: string): string {
  const { schema, name } = keyParts(key);
  return schema === "" ? name : `${schema}.${name}`;
}

/** An earlier statement has referred to the row that this one brings. */
function broughtLate(
  { tree, history, show, inCode, conditional, line }: HazardContext,
  table: Parameters<typeof singleKeys>[0],
  column: string,
  value: Parameters<typeof constant>[0],
  put: (key: string, draft: Draft) => void,
): void {
  // Where the row may be there already, the reference did not have to wait for it.
  if (tree.kind !== "insert" || tree.ignore || tree.replace || tree.conflicts.length > 0 || (inCode && conditional))
    return;
  const known = constant(value);
  const key = known ? keyText(known) : null;
  const early = key === null ? null : history.keys.wanted(keyOfColumn(table, column), key);
  if (!early) return;
  put(`${table.name} ${key}`, {
    at: early.at,
    message: `\`${early.from}\` refers to the row of \`${shownName(table)}\` with \`${column}\` = ${show(value)}, which comes only on line ${line(value.start)}.`,
    because: ["foreign keys are checked when the statement ends", "the row is brought in after this statement"],
    remedy: `Move the INSERT into \`${shownName(table)}\` before this statement.`,
  });
}

/** Whether the database rejects a reference that leads nowhere, as far as the script and the dialect say. */
function checksKeys({ dialect, history }: HazardContext): boolean {
  // SQLite checks only where a connection asks for it (sqlite.org/foreignkeys.html, 2).
  if (dialect.engine.pragmas) return /^(?:1|on|true|yes)$/.test(history.setting("foreign_keys") ?? "");
  if (/^(?:0|off|false)$/.test(history.setting("foreign_key_checks") ?? "")) return false;
  return history.setting("session_replication_role") !== "replica";
}
