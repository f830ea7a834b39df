import type { Catalog } from "../../catalog/catalog.ts";
import { columnNamed } from "../../catalog/columns.ts";
import type { Column, Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Select, Statement } from "../../sql/nodes/tree.ts";

/** What an INSERT brings: its columns in their order, and the rows that have trees. */
export interface InsertedRows {
  table: Table | null;
  /** The names of the columns that get a value; null when the statement lists none and the table is not known. */
  names: string[] | null;
  /** What the catalog knows of each of them. */
  columns: (Column | null)[];
  /** The statement lists its columns itself. */
  listed: boolean;
  rows: readonly (readonly Expr[])[];
}

/** The rows of an INSERT, of one branch of MERGE, of INSERT … SET; null for other statements. */
export function insertedRows(tree: Statement, catalog: Catalog | null, dialect: Dialect): InsertedRows | null {
  if (tree.kind === "merge") {
    const when = tree.whens.find((one) => one.action === "insert" && one.values !== null);
    if (!when?.values || tree.target.kind !== "table") return null;
    const table = catalog?.resolve(tree.target.name) ?? null;
    return assembled(
      table,
      when.columns?.map((one) => foldName(one.parts[one.parts.length - 1], dialect)) ?? null,
      [when.values],
      dialect,
    );
  }
  if (tree.kind !== "insert" || tree.target.kind !== "table") return null;
  const table = catalog?.resolve(tree.target.name) ?? null;
  if (tree.set) {
    const names: string[] = [];
    const values: Expr[] = [];
    for (const { targets, value } of tree.set) {
      const [target] = targets;
      if (target.kind !== "column") continue;
      names.push(foldName(target.path[target.path.length - 1], dialect));
      values.push(value);
    }
    return assembled(table, names, [values], dialect);
  }
  const names = tree.columns?.map((one) => foldName(one.parts[one.parts.length - 1], dialect)) ?? null;
  const body = tree.source?.body;
  const rows = body?.kind === "values" ? body.rows : body?.kind === "select" ? selectedRow(body) : [];
  const view = table || names ? undefined : catalog?.resolveRelation(tree.target.name);
  const made =
    view?.object === "view" && view.columns
      ? { ...assembled(null, [...view.columns], rows, dialect), listed: false }
      : assembled(table, names, rows, dialect);
  // Where a row has a value too many or too few, nobody knows which one goes where.
  const wanted = made.names?.length;
  return { ...made, rows: made.rows.filter((row) => wanted === undefined || row.length === wanted) };
}

/** Whether a SELECT gives one row of constants and the like: SELECT 1, 'x'; SELECT 1, 'x' FROM dual. */
export function readsNoTable({ from }: Select): boolean {
  const [only] = from;
  if (!only) return true;
  return from.length === 1 && only.kind === "table" && /^dual$/i.test(only.name.parts[only.name.parts.length - 1].text);
}

/** The one row of a SELECT that reads no table. */
function selectedRow(select: Select): readonly (readonly Expr[])[] {
  const exprs = select.items.map(({ expr }) => expr);
  return readsNoTable(select) && exprs.every(({ kind }) => kind !== "star") ? [exprs] : [];
}

function assembled(
  table: Table | null,
  listed: string[] | null,
  rows: readonly (readonly Expr[])[],
  dialect: Dialect,
): InsertedRows {
  // A generated column takes no value, but by position it has to be given DEFAULT all the same.
  // T-SQL passes over what the engine numbers or computes.
  const given = (one: Column): boolean =>
    !dialect.engine.fixedIdentity || (one.identity === null && one.generated === null);
  const names = listed ?? (table && !table.partial ? table.columns.filter(given).map((one) => one.name) : null);
  const columns = names?.map((name) => columnNamed(table, name) ?? null) ?? [];
  return { table, names, columns, listed: listed !== null, rows };
}
