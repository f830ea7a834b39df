import { isEnginesOwn } from "../../analysis/names/missing.ts";
import { foldName, writtenName } from "../../catalog/names.ts";
import { newKey, relationKey } from "../../catalog/relation-keys.ts";
import type { Ident, Name } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * A table that is used before the script makes it, or after it has dropped it.
 *
 * @example
 * DROP TABLE tariff_notice;
 * DELETE FROM tariff_notice WHERE tariff_id = 3;   -- stop: it is gone
 */
export const earlyUse: Hazard = {
  id: "early-use",
  family: "order",
  weight: "stop",
  depends: ["catalog"],
  speaksLater: true,
  title: "Used before it is there, or after it is gone",
  explanation:
    "The script itself makes the table, but further down, or it has dropped or renamed it, or a column of it, further up. The statement fails where it stands, and what the " +
    "script has done until then stays done unless a transaction takes it back.",
  remedy: "Bring the statements into order.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE tariff_notice (tariff_id integer PRIMARY KEY, fee numeric(10,2));",
    dangerous: "DROP TABLE tariff_notice;\nDELETE FROM tariff_notice WHERE tariff_id = 3;",
    sound: "DELETE FROM tariff_notice WHERE tariff_id = 3;",
  },
  check(context) {
    const { tree, names, history, dialect, catalog, known } = context;
    const drafts: Draft[] = history.hasGone ? goneColumns(context) : [];
    if (names) {
      for (const { source } of names.missing) {
        if (isEnginesOwn(source, dialect)) continue;
        const key = newKey(source.name, catalog, dialect);
        const [dropped, renamed] = [history.droppedOn(key), history.renamedOn(key)];
        const line = dropped ?? renamed;
        // What could not be read may have made it again.
        if (line === null || history.isInUnread(source.name.parts[source.name.parts.length - 1].text)) continue;
        drafts.push({
          message: `\`${writtenName(source.name)}\` is gone here: line ${line} has ${dropped === null ? "given it another name" : "dropped it"}.`,
          because: [dropped === null ? "nothing has that name in between" : "nothing in between makes it again"],
          remedy: `Move this statement before line ${line}${dropped === null ? ", or write the new name" : ""}.`,
        });
      }
    }
    if (tree.kind === "create-table" && catalog && !tree.ifNotExists && !tree.orReplace && !tree.temporary) {
      const key = newKey(tree.name, catalog, dialect, tree.temporary);
      const free =
        !catalog.relation(key) && history.droppedOn(key) === null && (known || history.renamedOn(key) === null);
      if (free) {
        if (!history.isInUnread(tree.name.parts[tree.name.parts.length - 1].text))
          for (const { statement, region, shown } of history.wanted.get(key) ?? []) {
            drafts.push({
              at: { statement, region },
              message: `\`${shown}\` is not there yet: the script makes it further down.`,
              ...(known ? {} : { weight: "ask" as const }),
              because: [
                known ? "the catalog does not hold it" : "if it is there already, the CREATE TABLE below is refused",
                "the statement that makes it comes after this one",
              ],
              remedy: "Move the CREATE TABLE before this statement.",
            });
          }
        history.wanted.delete(key);
      }
    }
    return drafts;
  },
};

/** Columns of tables that are not known, after the script has dropped them or given them another name. */
function goneColumns({ tree, names, history, dialect, catalog }: HazardContext): Draft[] {
  if (!names) return [];
  const used: { table: Name; column: Ident }[] = [];
  for (const { status, node, relation, scope } of names.bindings.values()) {
    if (status !== "undecided") continue;
    const of = relation ?? (scope.relations.length === 1 && scope.outer === null ? scope.relations[0] : null);
    const column = node.path[node.path.length - 1];
    if (of?.source?.kind === "table") used.push({ table: of.source.name, column });
  }
  if (tree.kind === "insert" && tree.target.kind === "table")
    for (const { parts } of tree.columns ?? []) used.push({ table: tree.target.name, column: parts[parts.length - 1] });
  const drafts = new Map<string, Draft>();
  for (const { table, column } of used) {
    const gone = history.goneColumn(relationKey(table, catalog, dialect), foldName(column, dialect).toLowerCase());
    if (!gone) continue;
    const message = `\`${column.text}\` of \`${writtenName(table)}\` is gone here: line ${gone.line} has ${gone.to === null ? "dropped it" : `given it the name \`${gone.to}\``}.`;
    drafts.set(message, {
      refused: true,
      message,
      because: ["nothing in between brings it back"],
      remedy: gone.to === null ? `Move this statement before line ${gone.line}.` : `Write ${gone.to}.`,
    });
  }
  return [...drafts.values()];
}
