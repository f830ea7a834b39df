import type { Hazard } from "../hazard.ts";

/**
 * An INSERT that does not name its columns.
 *
 * @example
 * INSERT INTO mooring_archive SELECT * FROM mooring;   -- by position, as long as both tables stay alike
 */
export const looseInsert: Hazard = {
  id: "loose-insert",
  family: "values",
  statements: ["insert"],
  weight: "note",
  depends: ["names"],
  title: "An INSERT without a list of columns",
  explanation:
    "Values go into the columns by position. A column that is added, dropped or moved in one of the tables shifts every value after it, or " +
    "makes the statement fail, and a reader cannot see which value goes where.",
  remedy: "List the columns.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2));\nCREATE TABLE mooring_archive (mooring_id integer, fee numeric(10,2));",
    dangerous: "INSERT INTO mooring_archive SELECT * FROM mooring WHERE mooring_id = 3;",
    sound: "INSERT INTO mooring_archive (mooring_id, fee) SELECT mooring_id, fee FROM mooring WHERE mooring_id = 3;",
  },
  check({ tree, names, inserted }) {
    if (tree.kind !== "insert" || tree.columns || tree.set || tree.defaults || tree.exec) return [];
    // A dump lists its values so; a table that is not known is listed as unchecked.
    if (!inserted?.table || inserted.table.temporary || tree.source?.body.kind === "values") return [];
    const { body } = tree.source ?? {};
    if (body?.kind !== "select") return [];
    const star = body.items.some(({ expr }) => expr.kind === "star");
    const shape = names?.scopes.get(body)?.relations[0]?.table;
    // Two tables of the same shape are what such a statement is made for.
    const alike =
      star &&
      body.items.length === 1 &&
      shape &&
      shape.columns.length === inserted.table.columns.length &&
      shape.columns.every((one, i) => one.name === inserted.table?.columns[i].name);
    return [
      {
        message: `The values go into \`${inserted.table.name}\` by position.`,
        because: [
          alike ? "both tables have the same columns today" : "no column is named",
          star ? "the star takes whatever columns the source has when it runs" : "the order of the columns decides",
        ],
        remedy: `INSERT INTO ${inserted.table.name} (${inserted.table.columns
          .slice(0, 6)
          .map((one) => one.name)
          .join(", ")}${inserted.table.columns.length > 6 ? ", …" : ""}) …`,
      },
    ];
  },
};
