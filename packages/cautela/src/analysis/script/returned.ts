import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Name, Query, Returning, Statement } from "../../sql/nodes/tree.ts";
import { assignedColumns } from "../changes/assigned-columns.ts";
import type { Change } from "../changes/change.ts";

/** Where the old rows of a change go in the same statement. */
export interface ReturnedRows {
  /** The table, or the table variable, that takes them. */
  into: Name;
  /** The columns that arrive, in lower case; null: all. */
  columns: readonly string[] | null;
  /** Why not every row arrives; null: all of them do. */
  loses: string | null;
}

/**
 * The rows that a DELETE or UPDATE returns and the table that they go into: OUTPUT deleted.… INTO (T-SQL), or an INSERT
 * around a `DELETE … RETURNING` in WITH (PostgreSQL). Null where they go nowhere.
 *
 * @example
 * DELETE FROM loaf OUTPUT deleted.* INTO loaf_archive WHERE baked < '20260101'
 * WITH gone AS (DELETE FROM loaf WHERE stale RETURNING *) INSERT INTO loaf_archive SELECT * FROM gone
 */
export function returnedRows(tree: Statement, { statement }: Change, dialect: Dialect): ReturnedRows | null {
  if (statement.kind === "truncate" || !statement.returning) return null;
  const { returning } = statement;
  if (statement === tree) {
    const { into } = returning;
    // RETURNING … INTO fills variables.
    if (into?.kind !== "column" || !returning.output) return null;
    const { start, end, path } = into;
    const columns = oldColumns(returning);
    // What is noted of a change beside its values is no copy of them.
    if (statement.kind === "update" && columns && !namesAny(returning, assignedColumns(statement.assignments)))
      return null;
    return { into: { kind: "name", parts: path, link: null, start, end }, columns, loses: null };
  }
  // RETURNING of an UPDATE gives the new values.
  if (tree.kind !== "insert" || tree.target.kind !== "table" || !tree.source || statement.kind !== "delete")
    return null;
  const clause = tree.with ?? tree.source.with;
  const table = clause?.tables.find(({ body }) => body === statement);
  if (!table) return null;
  const kept = oldColumns(returning);
  const name = foldName(table.name, dialect);
  const taken = takenFrom(tree.source, name, dialect);
  if (!taken) return null;
  const columns =
    taken.columns === null ? kept : kept === null ? taken.columns : taken.columns.filter((one) => kept.includes(one));
  return { into: tree.target.name, columns, loses: taken.loses };
}

/** Whether one of some columns is returned, as it was or as it is now. */
function namesAny({ items }: Returning, columns: readonly string[]): boolean {
  const wanted = new Set(columns.map((column) => column.toLowerCase()));
  return items.some(
    ({ expr }) =>
      expr.kind === "star" ||
      (expr.kind === "column" && wanted.has(expr.path[expr.path.length - 1].text.toLowerCase())),
  );
}

/** The columns of RETURNING and OUTPUT that hold what was there before; null: all of them. */
function oldColumns({ items }: Returning): readonly string[] | null {
  const columns: string[] = [];
  for (const { expr } of items) {
    if (expr.kind === "star") {
      if (!expr.path?.some(({ text }) => /^inserted$/i.test(text))) return null;
    } else if (expr.kind === "column" && !(expr.path.length > 1 && /^inserted$/i.test(expr.path[0].text)))
      columns.push(expr.path[expr.path.length - 1].text.toLowerCase());
  }
  return columns;
}

/** What a SELECT takes of the rows that a part of WITH returns; null where it does not read them. */
function takenFrom({ body, limit }: Query, name: string, dialect: Dialect): Omit<ReturnedRows, "into"> | null {
  if (body.kind === "table-query")
    return foldName(body.name.parts[0], dialect) === name ? { columns: null, loses: null } : null;
  if (body.kind !== "select") return null;
  const reads = body.from.some(function among(source): boolean {
    if (source.kind === "joined") return among(source.first) || source.joins.some((join) => among(join.source));
    return (
      source.kind === "table" && source.name.parts.length === 1 && foldName(source.name.parts[0], dialect) === name
    );
  });
  if (!reads) return null;
  const columns: string[] = [];
  let all = false;
  for (const { expr } of body.items) {
    if (expr.kind === "star") all = true;
    else if (expr.kind === "column") columns.push(expr.path[expr.path.length - 1].text.toLowerCase());
  }
  const loses = body.where
    ? "a WHERE leaves rows out on their way"
    : limit || body.top
      ? "a limit cuts them off on their way"
      : body.distinct || body.groupBy.length > 0
        ? "rows are put together on their way"
        : body.from.length > 1 || body.from[0].kind === "joined"
          ? "a join may leave rows out on their way"
          : null;
  return { columns: all ? null : columns, loses };
}
