import { Trait } from "../../analysis/statement/traits.ts";
import { relationKey } from "../../catalog/catalog.ts";
import type { Query, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
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
  needs: Trait.query,
  statements: ["update", "delete", "insert"],
  title: "A subquery on the table that is changed",
  explanation:
    "MySQL does not read the changed table in a subquery of the same UPDATE, DELETE or INSERT … VALUES (error 1093); MariaDB refuses it in a DELETE that names " +
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
    const targets = new Set(changes.map(({ change }) => relationKey(change.name, catalog, dialect)));
    if (tree.kind === "insert" && tree.target.kind === "table" && tree.source?.body.kind === "values")
      targets.add(relationKey(tree.target.name, catalog, dialect));
    if (targets.size === 0) return [];
    const drafts: Draft[] = [];
    for (const query of readAtOnce(tree)) {
      const { body } = query;
      if (body.kind !== "select" || drafts.length > 0) continue;
      for (const source of body.from.flatMap((one) =>
        one.kind === "joined" ? [one.first, ...one.joins.map((join) => join.source)] : [one],
      ))
        if (source.kind === "table" && targets.has(relationKey(source.name, catalog, dialect))) {
          drafts.push({
            refused: true,
            message: `\`${show(query)}\` reads \`${show(source.name)}\`, which this statement changes: the engine refuses this.`,
            because: [
              `${dialect.title} does not read the changed table in a subquery of the same statement (error 1093)`,
            ],
            remedy: "Put the subquery into a derived table: (SELECT … FROM (SELECT …) AS before_change).",
          });
          break;
        }
    }
    return drafts;
  },
};

/** The subqueries of a statement, but not those inside a derived table or WITH, which are worked out first. */
function readAtOnce(tree: Statement): Query[] {
  const queries: Query[] = [];
  walk(tree, (node) => {
    if (node.kind === "derived") return false;
    if ((node.kind === "subquery" || node.kind === "exists") && node.query) queries.push(node.query);
    if ((node.kind === "in" || node.kind === "quantified") && node.query) queries.push(node.query);
    return undefined;
  });
  return queries;
}
