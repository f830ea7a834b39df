import type { Change } from "../../analysis/changes/change.ts";
import { keepsValue } from "../../analysis/changes/own-value.ts";
import { type AssignedColumn, assignedIn, pinsOf, sameValue } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import type { Resolution } from "../../analysis/names/resolution.ts";
import { namesKeyOf } from "../../catalog/columns.ts";
import { tableKey } from "../../catalog/keys.ts";
import type { UpdateStatement } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A key that is given another value.
 *
 * @example
 * UPDATE berth SET berth_id = 107 WHERE berth_id = 7;
 */
export const keyRewrite: Hazard = {
  id: "key-rewrite",
  family: "values",
  statements: ["update"],
  weight: "ask",
  depends: ["names"],
  title: "A key that is rewritten",
  explanation:
    "The statement changes a primary key, or a column that foreign keys refer to. Whatever has noted the old value, in this database, in " +
    "a file or on paper, now points at nothing or at another row; foreign keys refuse it or follow it, as they were declared.",
  remedy: "Make a new row and move what belongs to it, or make sure that every reference follows (ON UPDATE CASCADE).",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE berth (berth_id integer PRIMARY KEY, code varchar(10));\nCREATE TABLE mooring (mooring_id integer PRIMARY KEY, berth_id integer NOT NULL REFERENCES berth ON UPDATE CASCADE);",
    dangerous: "UPDATE berth SET berth_id = 107 WHERE berth_id = 7;",
    sound: "UPDATE berth SET code = 'N7' WHERE berth_id = 7;",
  },
  check({ tree, names, changes, catalog, show, dialect }) {
    if (tree.kind !== "update" || !catalog) return [];
    // What writes the value that is there rewrites no key.
    const rewritten = assignedIn(tree, names).filter((one) => !keepsValue(one, { names, changes, dialect }));
    const drafts: Draft[] = [];
    for (const { change, softener, target } of changes) {
      const { table } = change;
      if (!table && !softener) drafts.push(...byName(change, target, tree, rewritten, names, show));
      if (!table || softener) continue;
      const key = tableKey(table.schema, table.name);
      const referring = catalog.referencing(key);
      const pinned = pinsOf(change.conditions, names);
      for (const { column, value } of rewritten) {
        if (column.relation && column.relation.table !== table) continue;
        // The key of the very row that is meant, written along with the rest.
        const given = constant(value);
        if (
          given &&
          pinned.some((one) => one.column.name === column.name && one.values.every((old) => sameValue(old, given)))
        )
          continue;
        const primary = table.primaryKey?.columns.some((one) => one.toLowerCase() === column.name) ?? false;
        const followers = referring.filter((other) =>
          other.foreignKeys.some(
            (one) =>
              one.table === key &&
              (one.referenced.length > 0 ? one.referenced : (table.primaryKey?.columns ?? [])).some(
                (name) => name.toLowerCase() === column.name,
              ),
          ),
        );
        if (!primary && followers.length === 0) continue;
        // Part of a key of several columns, in a table that only links others, is moved about in ordinary work.
        if (followers.length === 0 && (table.primaryKey?.columns.length ?? 0) > 1) continue;
        const cascades = followers.filter((other) =>
          other.foreignKeys.some((one) => one.table === key && one.onUpdate === "cascade"),
        );
        const because = [
          primary
            ? `\`${column.name}\` is the primary key of \`${target}\``
            : `foreign keys refer to \`${column.name}\``,
        ];
        if (cascades.length > 0)
          because.push(
            `${listed(cascades.map((one) => one.name))} ${cascades.length === 1 ? "follows" : "follow"} it (ON UPDATE CASCADE)`,
          );
        const others = followers.filter((one) => !cascades.includes(one));
        if (others.length > 0)
          because.push(
            `rows of ${listed(others.map((one) => one.name))} that refer to the old value make the statement fail`,
          );
        drafts.push({
          message: `The key \`${column.name}\` of \`${target}\` becomes \`${show(value)}\`: whatever knows the old value loses its row.`,
          because,
          remedy:
            "Look up who has noted the old value; make a new row and move what belongs to it, if that is possible.",
        });
      }
    }
    return drafts;
  },
};

/** A column that has the name of the key of its table, where the table is not known. */
function byName(
  { name, conditions }: Change,
  target: string,
  tree: UpdateStatement,
  rewritten: readonly AssignedColumn[],
  names: Resolution | null,
  show: HazardContext["show"],
): Draft[] {
  if (tree.from.length > 0 || tree.target.length > 1 || tree.target[0]?.kind !== "table") return [];
  const table = name.parts[name.parts.length - 1].text;
  const pinned = pinsOf(conditions, names);
  return rewritten.flatMap(({ column, value }) => {
    const own = namesKeyOf(column.name, table);
    const given = constant(value);
    const kept = pinned.some(
      (one) => one.column.name === column.name && given && one.values.every((old) => sameValue(old, given)),
    );
    if (!own || kept || value.kind === "variable" || value.kind === "placeholder") return [];
    return [
      {
        message: `The key \`${column.name}\` of \`${target}\` becomes \`${show(value)}\`: whatever knows the old value loses its row.`,
        because: [`\`${column.name}\` has the name of the key of \`${target}\``],
        remedy: "Look up who has noted the old value; make a new row and move what belongs to it, if that is possible.",
      },
    ];
  });
}
