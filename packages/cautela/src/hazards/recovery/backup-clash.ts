import { namesCopy } from "../../analysis/script/copies.ts";
import { shownName } from "../../catalog/model.ts";
import { writtenName } from "../../catalog/names.ts";
import { newKey } from "../../catalog/relation-keys.ts";
import type { Expr, Name } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { rowCount } from "../wording.ts";

/**
 * A copy whose name is taken.
 *
 * @example
 * CREATE TABLE IF NOT EXISTS mooring_before AS SELECT * FROM mooring;   -- last month's copy stays
 */
export const backupClash: Hazard = {
  id: "backup-clash",
  family: "recovery",
  weight: "stop",
  depends: ["names"],
  statements: ["create-table", "select"],
  title: "The copy's name is taken",
  explanation:
    "A table of the copy's name is there already. Under IF NOT EXISTS the old copy stays and the new rows are kept nowhere; without it the statement fails, " +
    "and a runner that goes on comes to the change without a copy; OR REPLACE throws the old copy away.",
  remedy: "Put the date, or a number, into the copy's name.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL);
CREATE TABLE mooring_before (mooring_id integer, status varchar(20));`,
    dangerous: "CREATE TABLE IF NOT EXISTS mooring_before AS SELECT * FROM mooring;",
    sound: "CREATE TABLE mooring_before_20261125 AS SELECT * FROM mooring;",
  },
  check({ tree, catalog, dialect, creations, known }) {
    if (!catalog) return [];
    const query = tree.kind === "create-table" || tree.kind === "select" ? tree.query : null;
    if (!query || query.body.kind === "values") return [];
    const name =
      tree.kind === "create-table"
        ? tree.name
        : tree.kind === "select" && query.body.kind === "select" && query.body.into?.what === "table"
          ? intoName(query.body.into.targets[0])
          : null;
    if (!name || (tree.kind === "create-table" && tree.temporary)) return [];
    const into = tree.kind === "select" && query.body.kind === "select" ? query.body.into : null;
    if (into?.temporary) return [];
    const key = newKey(name, catalog, dialect);
    const standing = catalog.relation(key);
    const unsaid = !known && !standing && tree.kind === "create-table" && tree.ifNotExists;
    if (unsaid && namesCopy(writtenName(name)) && !/\d{4}/.test(writtenName(name)))
      return [mayStand(writtenName(name))];
    if (standing?.object !== "table") return [];
    const shown = shownName(standing);
    const stale = tree.kind === "create-table" && tree.ifNotExists;
    const replaced = tree.kind === "create-table" && tree.orReplace;
    return [
      {
        weight: replaced ? "ask" : "stop",
        refused: !stale && !replaced,
        message: stale
          ? `\`${shown}\` is there already, so IF NOT EXISTS keeps the old one and copies nothing.`
          : replaced
            ? `OR REPLACE throws away the \`${shown}\` that is there.`
            : `\`${shown}\` is there already, so this fails and copies nothing.`,
        because: [
          creations.everMade(key)
            ? `the script has made \`${shown}\` before`
            : `the catalog holds a table \`${shown}\`${standing.rows === null ? "" : ` with about ${rowCount(standing.rows)}`}`,
        ],
        remedy: `Take a name that is new: ${shown}_2, or one with the date.`,
      },
    ];
  },
};

/** A copy under a name that may be taken, where no catalog says so. */
function mayStand(shown: string): Draft {
  return {
    weight: "note",
    message: `If \`${shown}\` is there already, IF NOT EXISTS keeps the old one and copies nothing.`,
    because: ["its name is the same at every run"],
    remedy: "Take a name that is new: one with the date.",
  };
}

function intoName(target: Expr | undefined): Name | null {
  if (target?.kind !== "column") return null;
  const { path, start, end } = target;
  return { kind: "name", parts: path, link: null, start, end };
}
