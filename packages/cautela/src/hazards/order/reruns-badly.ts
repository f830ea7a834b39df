import { writtenName } from "../../catalog/names.ts";
import { namedRelation, relationKey, renamedKey } from "../../catalog/relation-keys.ts";
import { flatSources } from "../../sql/nodes/visitor.ts";
import type { Hazard } from "../hazard.ts";

/**
 * What is right once and destructive the second time.
 *
 * @example
 * DROP TABLE tariff;
 * ALTER TABLE tariff_new RENAME TO tariff;   -- run again, the first line drops what the second has made
 */
export const rerunsBadly: Hazard = {
  id: "reruns-badly",
  family: "order",
  statements: ["alter-table", "insert"],
  weight: "note",
  title: "Right once, destructive twice",
  explanation:
    "The script does what it should the first time. Run a second time, after an error in the middle or by mistake, it destroys what the first run " +
    "has made: a swap by DROP and RENAME drops the new table, a table that is filled from itself grows at every run.",
  remedy: "Let the script look first whether it has run already, or do it in one transaction.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE tariff (tariff_id integer PRIMARY KEY);\nCREATE TABLE tariff_new (tariff_id integer PRIMARY KEY);",
    dangerous: "DROP TABLE tariff;\nALTER TABLE tariff_new RENAME TO tariff;",
    sound: "ALTER TABLE tariff_new RENAME TO tariff_old;",
  },
  check({ tree, history, dialect, catalog, creations }) {
    if (tree.kind === "alter-table") {
      for (const action of tree.actions) {
        if (action.what !== "rename") continue;
        const line = history.droppedOn(
          renamedKey(relationKey(tree.name, catalog, dialect), action.to, catalog, dialect),
        );
        // What takes its place is made again by a second run.
        if (line === null || creations.made(relationKey(tree.name, catalog, dialect)) !== null) continue;
        return [
          {
            message: `Run again, line ${line} drops the \`${writtenName(action.to)}\` that this rename has made, and there is nothing left to take its place.`,
            because: [
              `line ${line} drops \`${writtenName(action.to)}\``,
              `the second time it is the table that was \`${writtenName(tree.name)}\` before`,
            ],
            remedy: "Rename the old table instead of dropping it, and drop it when the new one has been looked at.",
          },
        ];
      }
    }
    if (
      tree.kind === "insert" &&
      tree.target.kind === "table" &&
      tree.source?.body.kind === "select" &&
      tree.conflicts.length === 0 &&
      !tree.replace &&
      !tree.ignore
    ) {
      const { body } = tree.source;
      const [source] = flatSources(body.from);
      if (body.from.length !== 1 || source?.kind !== "table" || body.where || body.groupBy.length > 0) return [];
      const { key, shown } = namedRelation(tree.target.name, catalog, dialect);
      if (relationKey(source.name, catalog, dialect) !== key || body.top || tree.source.limit) return [];
      return [
        {
          weight: "ask",
          message: `\`${shown}\` is filled from itself: every run doubles it.`,
          because: ["the rows that it reads are the rows that it adds to, and no filter tells them apart"],
          remedy: "Filter the rows that are to be copied.",
        },
      ];
    }
    return [];
  },
};
