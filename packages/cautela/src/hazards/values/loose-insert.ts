import { writtenName } from "../../catalog/names.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { listedShort } from "../wording.ts";

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
  check({ tree, names, inserted, dialect, catalog, at, region, slice }) {
    if (tree.kind !== "insert" || tree.columns || tree.set || tree.defaults || tree.exec) return [];
    // A dump lists its values so.
    const { body } = tree.source ?? {};
    if (body?.kind !== "select" || inserted?.table?.temporary || tree.target.kind !== "table") return [];
    const table = inserted?.table ?? null;
    const name = table?.name ?? writtenName(tree.target.name);
    const star = body.items.some(({ expr }) => expr.kind === "star");
    const shape = names?.scopes.get(body)?.relations[0]?.table;
    // Two tables of the same shape are what such a statement is made for.
    const alike =
      star &&
      body.items.length === 1 &&
      shape &&
      table &&
      shape.columns.length === table.columns.length &&
      shape.columns.every((one, i) => one.name === table.columns[i].name);
    const columns = table?.columns.slice(0, 6).map((one) => one.name) ?? [];
    const whole =
      table && (alike || (!star && body.items.length === table.columns.length)) && tree.target.alias === null;
    const writer = sqlWriter(dialect);
    const { end } = tree.target;
    const edits = whole
      ? [
          {
            ...region({ start: end, end }),
            text: ` (${writer.columns(
              "",
              table,
              table.columns.map((one) => one.name),
            )})`,
          },
        ]
      : [];
    const draft: Draft = {
      ...(whole ? { fix: { title: "List the columns", edits } } : {}),
      weight: "note",
      cause: "by position",
      about: name,
      together: (tables) => `The values go into ${listedShort(tables)} by position.`,
      message: `The values go into \`${name}\` by position.`,
      because: [
        alike ? "both tables have the same columns today" : "no column is named",
        star ? "the star takes whatever columns the source has when it runs" : "the order of the columns decides",
      ],
      remedy: `INSERT INTO ${tree.target.kind === "table" ? slice(tree.target.name.start, tree.target.name.end) : name} (${table && columns.length > 0 ? `${writer.columns("", table, columns)}${table.columns.length > 6 ? ", …" : ""}` : "…"}) …`,
    };
    const [source] = body.from;
    if (!star || alike || source?.kind !== "table") return table ? [draft] : [];
    const key = relationKey(source.name, catalog, dialect);
    // Where the source goes afterwards, nothing is left to compare with. A table that is not known is listed as unchecked.
    draft.settle = ({ timeline }) => {
      const gone = timeline.destructions.find(
        (lost) => lost.action === "drop" && lost.key === key && lost.at.statement > at.statement,
      );
      if (!gone) return table ? draft : null;
      const because = [
        ...draft.because,
        `line ${gone.at.region.line} drops \`${gone.shown}\`, where the values come from`,
      ];
      return { ...draft, weight: "ask", because, cause: undefined, about: undefined, together: undefined };
    };
    return [draft];
  },
};
