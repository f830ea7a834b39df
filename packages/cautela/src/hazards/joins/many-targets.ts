import type { Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * One statement that deletes from or updates several tables.
 *
 * @example
 * DELETE m, p FROM mooring m JOIN pilotage p ON p.mooring_id = m.mooring_id WHERE m.status = 'left';
 */
export const manyTargets: Hazard = {
  id: "many-targets",
  family: "joins",
  statements: ["update", "delete"],
  weight: "ask",
  title: "Several tables at once",
  explanation:
    "The statement changes more than one table. The rows of each are those that the join brings together, the count it reports is their " +
    "sum, and the order in which the tables are written is the engine's. A backup has to cover each of them.",
  remedy: "Write one statement for each table, the dependent one first.",
  example: {
    dialect: "mysql",
    ddl: "CREATE TABLE mooring (mooring_id int PRIMARY KEY, status varchar(20) NOT NULL);\nCREATE TABLE pilotage (pilotage_id int PRIMARY KEY, mooring_id int NOT NULL);",
    dangerous: "DELETE m, p FROM mooring m JOIN pilotage p ON p.mooring_id = m.mooring_id WHERE m.mooring_id = 3;",
    sound: "DELETE p FROM mooring m JOIN pilotage p ON p.mooring_id = m.mooring_id WHERE m.mooring_id = 3;",
  },
  check({ changes, tree }) {
    if ((tree.kind !== "update" && tree.kind !== "delete") || changes.length < 2) return [];
    const targets = [...new Set(changes.filter(({ change }) => change.statement === tree).map(({ target }) => target))];
    if (targets.length < 2) return [];
    return [
      {
        message: `This ${tree.kind === "update" ? "changes" : "deletes from"} ${targets.length} tables at once: ${listed(targets)}.`,
        because: [
          tree.kind === "update" ? "SET names columns of each of them" : "the list after DELETE names each of them",
        ],
        remedy: "Write one statement for each table, the dependent one first.",
      },
    ];
  },
};
