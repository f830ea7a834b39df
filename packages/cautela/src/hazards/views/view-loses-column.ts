import { dependentsOf } from "../../analysis/statement/dependents.ts";
import { queryColumns } from "../../catalog/ddl/query-columns.ts";
import { shownName } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { newKey } from "../../catalog/relation-keys.ts";
import type { Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A view that is redefined and lacks a column that it had, or has them in another order.
 *
 * @example
 * CREATE OR REPLACE VIEW owner_public AS SELECT owner_id, name FROM owner;   -- it had `mail` too
 */
export const viewLosesColumn: Hazard = {
  id: "view-loses-column",
  family: "views",
  weight: "ask",
  depends: ["names"],
  statements: ["create-view"],
  title: "A view that loses columns",
  explanation:
    "The new definition of a view leaves out a column that the old one had, or moves columns to other places. Whatever reads that column fails from then " +
    "on, and what reads the columns by their places gets other values. PostgreSQL refuses it under CREATE OR REPLACE VIEW (new columns may only follow at " +
    "the end); the others do it. The view may also have been dropped first in the same script.",
  remedy:
    "Keep the old columns in their places and put new ones after them, or change what reads the view in the same script.",
  example: {
    dialect: "mariadb",
    ddl: `CREATE TABLE owner (owner_id int PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(60), phone varchar(20));
CREATE VIEW owner_public AS SELECT owner_id, name, mail FROM owner;`,
    dangerous: "CREATE OR REPLACE VIEW owner_public AS SELECT owner_id, name FROM owner;",
    sound: "CREATE OR REPLACE VIEW owner_public AS SELECT owner_id, name, mail, phone FROM owner;",
  },
  check({ tree, catalog, dialect, history }) {
    if (tree.kind !== "create-view" || !catalog) return [];
    const standing = catalog.resolveRelation(tree.name);
    const view = standing?.object === "view" ? standing : null;
    const gone = history.droppedView(newKey(tree.name, catalog, dialect, tree.temporary));
    const old = view?.columns ?? gone?.columns ?? null;
    const made =
      tree.columns?.map((column) => foldName(column, dialect)) ??
      (tree.query ? (queryColumns(tree.query, catalog)?.map(({ name }) => name) ?? null) : null);
    if (!old || !made) return [];
    const lost = old.filter((column) => !made.includes(column));
    const moved = lost.length === 0 && old.some((column, i) => made[i] !== column);
    if (lost.length === 0 && !moved) return [];
    const shown = view ? shownName(view) : foldName(tree.name.parts[tree.name.parts.length - 1], dialect);
    const refused = dialect.engine.appendsViewColumns && view !== null && tree.orReplace && !tree.materialized;
    const readers = view ? dependentsOf(view, catalog, dialect).map(({ name }) => name) : [];
    return [
      {
        refused,
        structural: !refused,
        weight: refused ? "stop" : lost.length > 0 ? "ask" : "note",
        message:
          lost.length > 0
            ? `\`${shown}\` loses ${listed(lost)}${refused ? ", which CREATE OR REPLACE VIEW refuses" : ""}.`
            : `The columns of \`${shown}\` come to stand in another order${refused ? ", which CREATE OR REPLACE VIEW refuses" : ""}.`,
        because: [
          `it had ${listed(old)}`,
          `now it has ${listed(made)}`,
          ...(gone && !view ? [`the old one is dropped on line ${gone.line}`] : []),
          ...(readers.length > 0
            ? [`${listed(readers.slice(0, 6))} ${readers.length === 1 ? "reads" : "read"} it`]
            : []),
        ],
        remedy: "Keep the old columns in their places and put new ones after them.",
      },
    ];
  },
};
