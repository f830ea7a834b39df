import { joinTreeOf } from "../../analysis/conditions/join-tree.ts";
import { asksOf, connected, linksOf } from "../../analysis/conditions/links.ts";
import type { BoundRelation } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { foldName, writtenName } from "../../catalog/names.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Source, TableSource } from "../../sql/nodes/tree.ts";
import { columnText } from "../../writing/relation-names.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * The table that is changed is not the one that the joins and filters refer to.
 *
 * @example
 * UPDATE mooring SET fee = 0 FROM mooring AS m WHERE m.mooring_id = 3;   -- postgresql: every row of mooring
 */
export const wrongTarget: Hazard = {
  id: "wrong-target",
  family: "joins",
  statements: ["update", "delete"],
  weight: "stop",
  subsumes: ["no-way-back"],
  depends: ["catalog"],
  needs: Trait.change,
  title: "Another table than the filters refer to",
  explanation:
    "In PostgreSQL and SQLite the table after UPDATE is a table of its own: naming it again in FROM, under an alias, makes a " +
    "second copy of it, and a filter on the alias says nothing of the rows that are changed. The same holds for a target without any " +
    "condition that ties it to its FROM. A DELETE from a join that names no table (tsql, Jet) leaves open which one is meant.",
  remedy: "Filter on the target itself, or tie it to the other tables by its key.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL);",
    dangerous: "UPDATE mooring SET fee = 0 FROM mooring AS m WHERE m.mooring_id = 3;",
    sound: "UPDATE mooring AS m SET fee = 0 WHERE m.mooring_id = 3;",
  },
  check(context) {
    const { tree, names, dialect, changes } = context;
    const writer = sqlWriter(dialect);
    if (tree.kind === "delete" && tree.named.length === 0 && dialect.syntax.doubleFrom) {
      const [source] = tree.from;
      if (source?.kind === "joined") {
        const sources = [source.first, ...source.joins.map((join) => join.source)];
        const shown = sources.map(
          (one) =>
            ("alias" in one && one.alias?.text) ||
            (one.kind === "table" ? one.name.parts.map((part) => part.text).join(".") : "") ||
            "?",
        );
        // Jet takes DELETE Loaf.BakedOn FROM a join for no target, and refuses it.
        return [
          {
            message: `This DELETE from a join names no table: it may mean ${listed(shown)}.`,
            because: [
              dialect.engine.starTargets
                ? "Jet asks which table the rows are to be deleted from"
                : "the engine refuses a join without a target",
            ],
            remedy: shown
              .map((one) => (dialect.engine.starTargets ? `DELETE ${one}.* FROM …` : `DELETE ${one} FROM …`))
              .join(" or "),
          },
        ];
      }
    }
    if (!names || (tree.kind !== "update" && tree.kind !== "delete")) return [];
    const twice = namedTwice(context);
    if (twice) return [twice];
    const apart = besideItsFrom(context);
    if (apart) return [apart];
    const drafts: Draft[] = [];
    if ((names.scopes.get(tree)?.relations.length ?? 0) < 2) return drafts;
    for (const { change, target } of changes) {
      const level = joinTreeOf(tree, names, change.relation?.source ?? null);
      if (!level?.target || level.scope.relations.length < 2 || change.tied) continue;
      const links = linksOf(level.conditions, names, level.scope);
      if (links.undecided) continue;
      const own = level.target;
      const tied = connected(own, links);
      if (tied.size > 1) continue;
      const others = level.scope.relations.filter((one) => one !== own);
      // A target that is filtered on its own, beside a source of one row, is a deliberate product.
      const crossed = level.joins.some(
        ({ join }) => join.type === "cross" || join.type === "apply" || join.natural || join.using,
      );
      if (crossed) continue;
      const filtered = asksOf(level, names, (one) => one === own);
      const twin = others.find((one) => one.table && one.table === own.table);
      // Where nothing is asked of the others, what is wrong is that they are tied to nothing.
      const asked = asksOf(level, names, (one) => one !== own);
      if (!twin && (!asked || others.every((one) => one.query !== null))) continue;
      const conditioned = new Set(level.joins.flatMap(({ join, relation }) => (join.on === null ? [] : relation)));
      // A source that is filtered by no key: one row of it decides for all rows of the target alike.
      const loose = others.some(
        (one) =>
          !conditioned.has(one) &&
          links.pinned.some(({ relation }) => relation === one) &&
          !links.pinned.some(({ relation, column }) => relation === one && isKeyOf(one.table, column)),
      );
      if (filtered && !twin && !loose) continue;
      const shown = others.map((one) => one.name);
      drafts.push({
        message: twin
          ? `\`${own.name}\` and \`${twin.name}\` are two copies of \`${target}\`: the filter refers to \`${twin.name}\`, and every row of \`${own.name}\` is hit.`
          : filtered
            ? `Nothing ties \`${own.name}\` to ${listed(shown)}: if one row of it meets its condition, every row of \`${target}\` that meets its own is hit.`
            : `Nothing ties \`${own.name}\` to ${listed(shown)}: the conditions refer to the others, and every row of \`${target}\` is hit.`,
        because: [
          twin
            ? `the table after ${tree.kind === "update" ? "UPDATE" : "DELETE"} is one relation, \`${twin.name}\` in FROM is another`
            : `no condition mentions a column of \`${own.name}\` together with another table`,
        ],
        remedy: twin
          ? `Write the alias after ${tree.kind === "update" ? "UPDATE" : "DELETE FROM"} and leave the second copy out, or add ${columnText(own, keyOf(own.table), writer)} = ${columnText(twin, keyOf(twin.table), writer)}`
          : `Add the condition that ties \`${own.name}\` to ${listed(shown)}.`,
      });
    }
    return drafts;
  },
};

/** DELETE mooring FROM vessel v …: the name before FROM is none of its tables. */
function besideItsFrom({ tree, changes, dialect, names, known }: HazardContext): Draft | null {
  if (tree.kind !== "delete" || tree.named.length === 0) return null;
  const own = changes.find(({ change }) => change.statement === tree && change.relation === null);
  const others = (names?.scopes.get(tree)?.relations ?? []).map(({ name }) => name);
  if (!own || others.length === 0) return null;
  const remedy = `Write the table or the alias that FROM names: DELETE ${others[0]}${dialect.engine.starTargets ? ".*" : ""} FROM …`;
  // A table that is not there is an unknown name.
  if (dialect.engine.targetThroughFrom && (own.change.table || !known))
    return {
      message: `\`${own.target}\` is not among the tables of FROM, and nothing ties it to ${listed(others)}: every row of it is deleted.`,
      because: ["the table before FROM stands beside those of FROM, as in a product"],
      remedy,
    };
  return {
    refused: true,
    message: `This deletes from \`${own.target}\`, and FROM names only ${listed(others)}: the engine refuses it.`,
    because: ["the name before FROM must be one of the tables, or of their aliases"],
    remedy,
  };
}

function isKeyOf(table: BoundRelation["table"], column: string): boolean {
  const keys = table?.primaryKey ? [table.primaryKey, ...table.uniqueKeys] : (table?.uniqueKeys ?? []);
  return keys.some((key) => !key.partial && key.columns.length === 1 && key.columns[0] === column);
}

function keyOf(table: { primaryKey: { columns: readonly string[] } | null } | null): string {
  return table?.primaryKey?.columns[0] ?? "…";
}

/** UPDATE t … FROM t AS a JOIN t AS b: which of the two is meant is left open, and refused (tsql, error 8154). */
function namedTwice({ tree, catalog, dialect }: HazardContext): Draft | null {
  if (!dialect.engine.targetThroughFrom) return null;
  const target =
    tree.kind === "update" && tree.target[0]?.kind === "table"
      ? tree.target[0].name
      : tree.kind === "delete"
        ? tree.named[0]
        : undefined;
  if (!target || (tree.kind !== "update" && tree.kind !== "delete")) return null;
  const tables = tree.from.flatMap(tablesOf);
  const last = foldName(target.parts[target.parts.length - 1], dialect);
  // An alias, or a table that FROM names as it is called.
  if (tables.some(({ alias, name }) => foldName(alias ?? name.parts[name.parts.length - 1], dialect) === last))
    return null;
  const key = relationKey(target, catalog, dialect);
  const own = tables.filter(({ name }) => relationKey(name, catalog, dialect) === key);
  if (own.length < 2) return null;
  const aliases = own.map(({ alias }) => alias?.text ?? "?");
  return {
    refused: true,
    message: `FROM names \`${writtenName(target)}\` ${own.length} times, as ${listed(aliases)}: the engine refuses to choose one.`,
    because: ["the target is named by the table and not by an alias"],
    remedy: `Name the one that is meant: ${tree.kind === "update" ? "UPDATE" : "DELETE"} ${own[0].alias?.text ?? ""} …`,
  };
}

function tablesOf(source: Source): TableSource[] {
  if (source.kind === "joined") return [source.first, ...source.joins.map((join) => join.source)].flatMap(tablesOf);
  return source.kind === "table" ? [source] : [];
}
