import { readAtOnce, tablesBehind } from "../../analysis/views/read-tables.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Name } from "../../sql/nodes/tree.ts";
import { flatSources } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A subquery reads the table that the statement changes, where the engine refuses that.
 *
 * @example
 * DELETE FROM tide_reading WHERE level_m < (SELECT AVG(level_m) FROM tide_reading);   -- MySQL: error 1093
 */
export const ownTableRead: Hazard = {
  id: "own-table-read",
  family: "joins",
  weight: "stop",
  statements: ["update", "delete", "insert"],
  title: "A subquery on the table that is changed",
  explanation:
    "MySQL does not read the changed table in a subquery of the same UPDATE, DELETE or INSERT … VALUES (error 1093), nor through a view; MariaDB refuses it in a DELETE that names " +
    "its target before FROM. A derived table in between is worked out first and is allowed.",
  remedy: "Put the subquery into a derived table: (SELECT … FROM (SELECT …) AS before_change).",
  example: {
    dialect: "mysql",
    ddl: "CREATE TABLE tide_reading (reading_id int PRIMARY KEY, level_m decimal(5,2) NOT NULL);",
    dangerous: "DELETE FROM tide_reading WHERE level_m < (SELECT AVG(level_m) FROM tide_reading);",
    sound:
      "DELETE FROM tide_reading WHERE level_m < (SELECT a FROM (SELECT AVG(level_m) AS a FROM tide_reading) AS before_change);",
  },
  check({ tree, changes, catalog, dialect, show }) {
    const { ownTableRead: rule } = dialect.engine;
    if (rule === "allowed") return [];
    if (rule === "no-named-delete" && !(tree.kind === "delete" && tree.named.length > 0)) return [];
    const written = changes.map(({ change }) => change.name);
    if (tree.kind === "insert" && tree.target.kind === "table" && tree.source?.body.kind === "values")
      written.push(tree.target.name);
    if (written.length === 0) return [];
    const behind = (name: Name, which: "rows" | "subqueries" | "all"): Set<unknown> =>
      new Set<unknown>([
        ...(which === "subqueries" ? [] : [relationKey(name, catalog, dialect)]),
        ...(catalog ? tablesBehind(name, catalog, dialect, which) : []),
      ]);
    const targets = new Set(written.flatMap((name) => [...behind(name, "rows")]));
    const read = (name: Name, which: "subqueries" | "all"): boolean =>
      [...behind(name, which)].some((one) => targets.has(one));
    for (const query of readAtOnce(tree)) {
      if (query.body.kind !== "select") continue;
      const source = flatSources(query.body.from).find((one) => one.kind === "table" && read(one.name, "all"));
      if (source?.kind === "table") return [refusedRead(`\`${show(query)}\``, show(source.name), dialect.title)];
    }
    // A view that the statement joins brings its own subqueries along.
    if (tree.kind !== "delete" || !catalog) return [];
    for (const source of flatSources(tree.from))
      if (source.kind === "table" && read(source.name, "subqueries"))
        return [refusedRead(`the view \`${show(source.name)}\``, "", dialect.title)];
    return [];
  },
};

function refusedRead(what: string, name: string, title: string): Draft {
  return {
    refused: true,
    message: `${what[0].toUpperCase()}${what.slice(1)} reads ${name === "" ? "the table" : `\`${name}\``}, which this statement changes: the engine refuses this.`,
    because: [`${title} does not read the changed table in a subquery of the same statement (errors 1093 and 1443)`],
    remedy: "Put the subquery into a derived table: (SELECT … FROM (SELECT …) AS before_change).",
  };
}
