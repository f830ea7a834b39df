import type { Change } from "../analysis/changes/change.ts";
import type { Table } from "../catalog/model.ts";
import type { Expr, Name, Statement } from "../sql/nodes/tree.ts";
import { walk } from "../sql/nodes/visitor.ts";
import { changeText, type WrittenStatement } from "./change-text.ts";
import { keyOf } from "./kept.ts";
import type { SqlWriter } from "./writer.ts";

/**
 * The statement that keeps the rows which a change meets, in one line; null where no query gives exactly them: they are cut
 * off by a limit, depend on chance, or are no rows of one table. `every`: the filter is always true, and is left out.
 *
 * @example
 * // DELETE FROM vessel v USING owner o WHERE o.owner_id = v.owner_id AND o.left_on < '2025-01-01'
 * // CREATE TABLE vessel_before AS SELECT * FROM vessel WHERE vessel_id IN (SELECT v.vessel_id FROM …)
 */
export function copyStatement(
  source: WrittenStatement,
  change: Change,
  writer: SqlWriter,
  every = false,
): string | null {
  if (
    change.statement !== source.tree ||
    holdsHoles(source.tree) ||
    change.conditions.some(({ expr }) => holdsText(expr))
  )
    return null;
  const into = copyName(change.name, change.table, writer);
  if (change.statement.kind === "truncate")
    return inOneLine(writer.copy(into, "*", `FROM ${writtenIn(source, change)}`));
  const text = changeText(source, change, writer);
  if (typeof text === "string" || text.limited || (text.unsettled !== null && text.unsettled !== "clock")) return null;
  const rest = `FROM ${text.from}${text.where === null || (every && !text.joined) ? "" : ` WHERE ${text.where}`}`;
  if (!text.joined) return inOneLine(writer.copy(into, text.head === "" ? "*" : `${text.ref}.*`, rest, text.head));
  const { table } = change;
  const key = table ? keyOf(table) : null;
  if (!table || !key) return inOneLine(writer.copy(into, `DISTINCT ${text.ref}.*`, rest, text.head));
  const keys = `SELECT ${writer.columns(text.ref, table, key)} ${rest}`;
  const own = writer.table(table);
  const alias = key.length === 1 ? own : "k";
  const from = `FROM ${own}${key.length === 1 ? "" : writer.as(alias)} WHERE ${writer.amongKeys(alias, table, key, keys)}`;
  return inOneLine(writer.copy(into, key.length === 1 ? "*" : `${alias}.*`, from, text.head));
}

/** A text where a condition is meant: what DELETE takes with a warning, CREATE TABLE … AS refuses (mariadb). */
function holdsText(expr: Expr): boolean {
  return expr.kind === "logic" ? expr.items.some(holdsText) : expr.kind === "literal" && expr.type === "string";
}

const AFTER = "_before";

/** A name for the copy of a table, beside it, and no longer than a name may be. */
export function copyName(name: Name, table: Table | undefined, writer: SqlWriter): string {
  const room = writer.dialect.engine.longestName - AFTER.length;
  if (table) {
    const own = (table.written?.[table.written.length - 1] ?? table.name).slice(0, room);
    // In capital letters as a whole, where its own name is so: a name in mixed letters would need quotes (Oracle).
    const upper = own === own.toUpperCase() && /[A-Z]/.test(own);
    return writer.beside(table, own + (upper ? AFTER.toUpperCase() : AFTER));
  }
  const { text, quoted } = name.parts[name.parts.length - 1];
  const own = text.slice(0, room) + AFTER;
  return quoted ? writer.quoted(own) : own;
}

function writtenIn({ text, start }: WrittenStatement, { name }: Change): string {
  return text.slice(name.start - start, name.end - start);
}

function inOneLine(sql: string): string {
  return sql.replace(/\s*\n\s*/g, " ").trim();
}

/** Whether something is filled in when the statement runs: a copy could not be made before. */
function holdsHoles(tree: Statement): boolean {
  let holes = false;
  walk(tree, (node) => {
    if (node.kind === "placeholder") holes = true;
    if (node.kind === "table" && node.name.parts.some(({ hole }) => hole)) holes = true;
    return !holes;
  });
  return holes;
}
