import { indexKey } from "../../analysis/script/note-past.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnLike } from "../../catalog/columns.ts";
import { shownName, type Table } from "../../catalog/model.ts";
import { foldName, writtenName } from "../../catalog/names.ts";
import { newKey, relationKey, renamedKey } from "../../catalog/relation-keys.ts";
import type { Ident, Name, TableConstraint } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { isSettled } from "../known-objects.ts";

/**
 * A statement makes what is there already.
 *
 * @example
 * ALTER TABLE berth ADD COLUMN depth_m numeric(4,1);   -- `berth` has it: the engine refuses this
 */
export const alreadyThere: Hazard = {
  id: "already-there",
  family: "order",
  weight: "stop",
  needs: Trait.structure,
  depends: ["names"],
  title: "It is there already",
  explanation:
    "A table, view, trigger, column or constraint is made under a name that is taken, or something is renamed to such a name. The engine refuses the statement, " +
    "and what the script does next works on something else than its author thought. IF NOT EXISTS, OR REPLACE, and what the script has dropped before are quiet.",
  remedy: "Leave the statement out, write IF NOT EXISTS where that is meant, or take another name.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE berth (berth_id integer PRIMARY KEY, depth_m numeric(4,1));",
    dangerous: "ALTER TABLE berth ADD COLUMN depth_m numeric(4,1);",
    sound: "ALTER TABLE berth ADD COLUMN IF NOT EXISTS depth_m numeric(4,1);",
  },
  check(context) {
    const { tree, catalog, dialect, timeline, history } = context;
    if (!catalog || timeline.install !== null || !isSettled(context)) return [];
    const taken = (name: Name, what: string, key = newKey(name, catalog, dialect)): Draft[] => {
      if (name.parts.some(({ hole }) => hole)) return [];
      // Only where it would stand: another schema may have a table of that name.
      const found = catalog.relation(key);
      return found
        ? [
            draft(
              `The ${found.object} \`${shownName(found)}\` is there already, so the engine refuses this ${what}.`,
              context,
            ),
          ]
        : [];
    };
    switch (tree.kind) {
      case "create-table":
        // A copy whose name is taken is told as such.
        if (tree.ifNotExists || tree.orReplace || tree.temporary || tree.query) return [];
        return taken(tree.name, "CREATE TABLE");
      case "create-view":
        if (tree.ifNotExists || tree.orReplace || tree.temporary) return [];
        return taken(tree.name, "CREATE VIEW");
      case "create-index":
        return tree.name && !tree.ifNotExists && history.indexes.has(indexKey(tree.name, tree.table, catalog, dialect))
          ? [
              draft(
                `The script has made an index \`${writtenName(tree.name)}\` before, so the engine refuses this.`,
                context,
              ),
            ]
          : [];
      case "rename":
        return tree.object === "table" || tree.object === "view"
          ? tree.renames.flatMap(({ to }) => (tree.renames.length === 1 ? taken(to, "new name") : []))
          : [];
      case "alter-table": {
        const table = catalog.resolve(tree.name);
        return tree.actions.flatMap((action): Draft[] => {
          if (action.what === "rename") {
            const key = relationKey(tree.name, catalog, dialect);
            const renamed = renamedKey(key, action.to, catalog, dialect);
            return renamed === key ? [] : taken(action.to, "new name", renamed);
          }
          if (!table || table.partial)
            return action.what === "add-column" && !action.ifNotExists
              ? addedTwice(action.column.name, tree.name, context)
              : [];
          if (action.what === "add-column" && !action.ifNotExists)
            return tree.actions.some((one) => one.what === "drop-column" && one.name.text === action.column.name.text)
              ? []
              : column(action.column.name, table, context);
          if (action.what === "rename-column" && foldName(action.to, dialect) !== foldName(action.name, dialect))
            return column(action.to, table, context);
          if (action.what === "add-constraint" && action.constraint.name)
            return tree.actions.some(
              (one) =>
                (one.what === "drop-constraint" || one.what === "drop-index") &&
                one.name?.text === action.constraint.name?.text,
            )
              ? []
              : constraint(action.constraint, table, context);
          return [];
        });
      }
      default:
        return [];
    }
  },
};

/** A column that the script has added before, to a table that is not known. */
function addedTwice(name: Ident, table: Name, context: HazardContext): Draft[] {
  const { creations, history, catalog, dialect, conditional } = context;
  const key = relationKey(table, catalog, dialect);
  const column = foldName(name, dialect);
  if (conditional || !creations.added(key)?.has(column) || history.goneColumn(key, column.toLowerCase())) return [];
  return [
    draft(`The script has added \`${name.text}\` to \`${writtenName(table)}\` before, so the engine refuses this.`, {
      ...context,
      known: false,
    }),
  ];
}

function draft(message: string, { known }: HazardContext): Draft {
  return {
    refused: true,
    message,
    because: [known ? "the catalog holds it, and nothing before drops it" : "the script has made it before"],
    remedy: "Leave it out, write IF NOT EXISTS if that is meant, or take another name.",
  };
}

function column(name: Ident, table: Table, context: HazardContext): Draft[] {
  const found = name.hole ? undefined : columnLike(table, foldName(name, context.dialect).toLowerCase());
  if (!found) return [];
  return [
    draft(
      `\`${shownName(table)}\` has a column \`${found.name}\` already${found.type === "" ? "" : ` (${found.type})`}, so the engine refuses this.`,
      context,
    ),
  ];
}

/** In how many tables a name is looked for: a dump of very many must not be searched for each of its constraints. */
const MOST_TABLES = 400;

function constraint(own: TableConstraint, table: Table, context: HazardContext): Draft[] {
  const { catalog, dialect } = context;
  if (!own.name || own.name.hole || !catalog) return [];
  const name = foldName(own.name, dialect).toLowerCase();
  const scope = dialect.engine.constraintNames;
  const isKey = own.kind === "unique" || own.kind === "primary";
  const wide = scope === "schema" || (scope === "keys-in-schema" && isKey);
  let looked = 0;
  for (const one of wide ? catalog.tables() : [table]) {
    if (looked++ > MOST_TABLES) break;
    if (one.schema !== table.schema) continue;
    const keys = one.primaryKey ? [one.primaryKey, ...one.uniqueKeys] : one.uniqueKeys;
    // In another table only what shares its kind of name is in the way.
    const names = one === table || scope === "schema" ? [...keys, ...one.foreignKeys, ...one.checks] : keys;
    if (!names.some((found) => found.name?.toLowerCase() === name)) continue;
    return [
      draft(
        `\`${own.name.text}\` is the name of a constraint of \`${shownName(one)}\` already, so the engine refuses this.`,
        context,
      ),
    ];
  }
  return [];
}
