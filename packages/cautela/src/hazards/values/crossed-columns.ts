import { usedColumn } from "../../analysis/conditions/conditions.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * INSERT … SELECT whose columns stand in another order.
 *
 * @example
 * INSERT INTO mooring (from_day, to_day) SELECT to_day, from_day FROM request;
 */
export const crossedColumns: Hazard = {
  id: "crossed-columns",
  family: "values",
  statements: ["insert"],
  weight: "stop",
  title: "Columns in another order than their names say",
  explanation:
    "Values go by position, and the select list has columns of the very names of the target's, in another order: each value lands in the " +
    "neighbour's column. When the types fit, nobody is told.",
  remedy: "Bring the select list into the order of the column list.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE request (request_id integer PRIMARY KEY, from_day date, to_day date);\nCREATE TABLE mooring (mooring_id integer PRIMARY KEY, from_day date, to_day date);",
    dangerous:
      "INSERT INTO mooring (mooring_id, from_day, to_day) SELECT request_id, to_day, from_day FROM request WHERE request_id = 3;",
    sound:
      "INSERT INTO mooring (mooring_id, from_day, to_day) SELECT request_id, from_day, to_day FROM request WHERE request_id = 3;",
  },
  check({ tree, names, inserted, dialect, show }) {
    if (tree.kind !== "insert" || tree.source?.body.kind !== "select") return [];
    if (!inserted?.names) return [];
    const { items } = tree.source.body;
    let given: string[];
    let texts: string[];
    if (items.length === 1 && items[0].expr.kind === "star") {
      const relations = names?.scopes.get(tree.source.body)?.relations ?? [];
      if (relations.length !== 1 || !relations[0].columns) return [];
      const writer = sqlWriter(dialect);
      given = relations[0].columns.map((one) => one.name.toLowerCase());
      texts = relations[0].columns.map((one) => writer.column(relations[0].table, one.name));
    } else {
      given = items.map(({ expr, alias }) => (alias?.text ?? usedColumn(expr, names)?.name ?? "").toLowerCase());
      texts = items.map(show);
    }
    if (given.length === inserted.names.length && inserted.names.every((name, i) => given[i] === name)) return [];
    const wanted = inserted.names.map((one) => one.toLowerCase());
    if (given.length !== wanted.length) return [];
    const crossed = wanted.filter(
      (name, i) => given[i] !== name && given[i] !== "" && given.includes(name) && wanted.includes(given[i]),
    );
    if (crossed.length < 2) return [];
    const drafts: Draft[] = [];
    const pairs = crossed.slice(0, 3).map((name) => `\`${name}\` gets \`${given[wanted.indexOf(name)]}\``);
    drafts.push({
      weight: inserted.listed || items[0].expr.kind === "star" ? "stop" : "ask",
      message: `The values stand in another order than the columns: ${pairs.join(", ")}.`,
      because: ["values go by position, whatever the columns of the SELECT are called"],
      // A value without a name cannot be written out here.
      remedy: given.includes("")
        ? "Put the values into the order of the columns."
        : `SELECT ${wanted
            .map((name, i) => (given.includes(name) ? name : given[i]))
            .map((name) => texts[given.indexOf(name)])
            .join(", ")} …`,
    });
    return drafts;
  },
};
