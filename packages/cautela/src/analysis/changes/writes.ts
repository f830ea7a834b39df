import type { Catalog } from "../../catalog/catalog.ts";
import { shownName } from "../../catalog/model.ts";
import { writtenName } from "../../catalog/names.ts";
import type { Assignment, Expr, Name, Statement } from "../../sql/nodes/tree.ts";
import type { FiredRipple } from "../ripples/ripple.ts";
import { diverted, rippleWrites } from "../ripples/statement-ripples.ts";
import { type Change, targetName } from "./change.ts";
import type { Reach } from "./reach.ts";
import type { Write } from "./write.ts";

/** The columns that a list of assignments writes, as written. */
export function assignedColumns(assignments: readonly Assignment[]): string[] {
  const columns: string[] = [];
  for (const { targets } of assignments) {
    for (const target of targets) {
      const name = columnName(target);
      if (name) columns.push(name);
    }
  }
  return columns;
}

function columnName(expr: Expr): string | null {
  if (expr.kind === "column") return expr.path[expr.path.length - 1].text;
  return expr.kind === "compound" && expr.operands.length > 0 ? columnName(expr.operands[0]) : null;
}

function shown(name: Name, catalog: Catalog | null): string {
  const table = catalog?.resolve(name);
  return table ? shownName(table) : writtenName(name);
}

/** The writes that a statement names itself. */
export function directWrites(
  statement: Statement,
  changes: readonly { change: Change; result: { reach: Reach }; target: string }[],
  catalog: Catalog | null,
): Write[] {
  const writes: Write[] = [];
  for (const { change, result, target } of changes) {
    if (result.reach.bound === "none") continue;
    const write: Write = { table: target, action: change.action, via: "statement" };
    if (change.statement.kind === "update") write.columns = assignedColumns(change.statement.assignments);
    writes.push(write);
  }
  for (const write of addedRows(statement, catalog)) writes.push(write);
  return writes;
}

/** The writes of statements that bring rows in, or do several things at once. */
function addedRows(statement: Statement, catalog: Catalog | null): Write[] {
  switch (statement.kind) {
    case "insert": {
      if (statement.target.kind !== "table") return [];
      const write: Write = { table: shown(statement.target.name, catalog), action: "insert", via: "statement" };
      if (statement.columns) write.columns = statement.columns.map((column) => column.parts[0].text);
      return [write];
    }
    case "multi-insert":
      return statement.branches.map(({ target }) => ({
        table: shown(target.name, catalog),
        action: "insert",
        via: "statement",
      }));
    case "merge": {
      if (statement.target.kind !== "table") return [];
      const table = shown(statement.target.name, catalog);
      const writes: Write[] = [];
      for (const { action } of statement.whens) {
        if (action !== "nothing" && !writes.some((write) => write.action === action))
          writes.push({ table, action, via: "statement" });
      }
      return writes;
    }
    case "copy":
      if (statement.direction === "out" || !statement.table) return [];
      return [{ table: shown(statement.table, catalog), action: "insert", via: "statement" }];
    case "create-table":
      return statement.query ? [{ table: writtenName(statement.name), action: "create", via: "statement" }] : [];
    default:
      return [];
  }
}

/** The writes of a statement with those of its ripples; what a trigger or a view's refusal keeps from being written is left out. */
export function allWrites(direct: Write[], fired: readonly FiredRipple[]): Write[] {
  if (fired.length === 0) return direct;
  const off = fired.filter(diverted).map(({ firing }) => ({ target: targetOf(firing), action: firing.action }));
  const kept = direct.filter(
    (write) => !off.some(({ target, action }) => target === write.table && action === write.action),
  );
  return [...kept, ...rippleWrites(fired)];
}

/** The name under which {@link directWrites} lists a change. */
function targetOf({ change, relation, written }: FiredRipple["firing"]): string {
  if (change) return targetName(change);
  return relation?.object === "table" ? shownName(relation) : written;
}
