import type { Name, TableSource } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Hazard, HazardContext } from "../hazard.ts";

/**
 * The change goes to another database than the one that USE has chosen.
 *
 * @example
 * USE harbour_test; DELETE FROM harbour.mooring WHERE status = 'left';
 */
export const wrongDatabase: Hazard = {
  id: "wrong-database",
  family: "recovery",
  weight: "ask",
  statements: ["update", "delete", "insert", "truncate", "merge", "drop"],
  title: "Another database than the current one",
  explanation:
    "The script chooses a database with USE, and the statement names another one in front of its table: it was tried out elsewhere, or copied from a script for " +
    "another system. Reading from another database (a copy of last night, a staging database) is quiet.",
  remedy: "Leave the database out of the name, or choose the one that is meant.",
  example: {
    dialect: "mariadb",
    ddl: "CREATE TABLE mooring (mooring_id int PRIMARY KEY, fee int NOT NULL);",
    dangerous: "USE harbour_test;\nUPDATE harbour.mooring SET fee = 12 WHERE mooring_id = 3;",
    sound: "USE harbour;\nUPDATE harbour.mooring SET fee = 12 WHERE mooring_id = 3;",
  },
  check({ tree, timeline, dialect }) {
    const { database } = timeline;
    if (!database || !dialect.engine.useDatabase) return [];
    const target = targetName(tree);
    if (!target) return [];
    const { parts } = target;
    if (parts[parts.length - 1].text.startsWith("#")) return [];
    const named = dialect.engine.threePartNames
      ? parts.length > 2
        ? parts[parts.length - 3].text
        : ""
      : parts.length > 1
        ? parts[parts.length - 2].text
        : "";
    if (named === "" || named.toLowerCase() === database.name.toLowerCase().replace(/[`"[\]]/g, "")) return [];
    return [
      {
        message: `The current database is \`${database.name}\`, and this changes a table of \`${named}\`.`,
        because: [`USE ${database.name} stands on line ${database.at.region.line}`],
        remedy: "Leave the database out of the name, or choose the one that is meant.",
      },
    ];
  },
};

/** The name of the table that is changed. */
function targetName(tree: HazardContext["tree"]): Name | null {
  switch (tree.kind) {
    case "insert":
    case "merge":
      return tree.target.kind === "table" ? tree.target.name : null;
    case "drop":
      return tree.object === "table" ? (tree.names[0] ?? null) : null;
    case "truncate":
      return tree.targets[0]?.name ?? null;
    case "update":
    case "delete": {
      let first: TableSource | null = null;
      for (const source of tree.kind === "update" ? tree.target : tree.from)
        walk(source, (node) => {
          if (!first && node.kind === "table") first = node;
          return undefined;
        });
      return (first as TableSource | null)?.name ?? null;
    }
    default:
      return null;
  }
}
