import type { Table } from "../../catalog/model.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { conjuncts } from "../changes/reach.ts";
import type { ShapeSource, ViewShape } from "./shape.ts";

/** Whether the keys of all tables that a query reads are known. */
export function keysAreKnown(shape: ViewShape): boolean {
  return shape.sources.every(
    ({ kind, relation }) =>
      kind !== "table" || (relation !== null && !(relation.object === "table" && relation.partial)),
  );
}

/** Whether every other source is met once for each row of this one. */
export function anchors(source: ShapeSource, shape: ViewShape): boolean {
  const seen = new Set([source]);
  for (let grown = true; grown; ) {
    grown = false;
    for (const other of shape.sources) {
      if (seen.has(other) || other.relation?.object !== "table") continue;
      if (!uniqueVia(other, other.relation, seen, shape)) continue;
      seen.add(other);
      grown = true;
    }
  }
  return seen.size === shape.sources.length;
}

/** Whether a whole key of a table is tied by equality to sources that are met once. */
function uniqueVia(source: ShapeSource, table: Table, seen: ReadonlySet<ShapeSource>, shape: ViewShape): boolean {
  const columns = new Set<string>();
  for (const part of joinConditions(shape)) {
    if (part.kind !== "binary" || part.op !== "=") continue;
    const left = sideOf(part.left, shape);
    const right = sideOf(part.right, shape);
    if (left?.source === source && right && seen.has(right.source)) columns.add(left.column);
    if (right?.source === source && left && seen.has(left.source)) columns.add(right.column);
  }
  const keys = table.primaryKey ? [table.primaryKey, ...table.uniqueKeys] : table.uniqueKeys;
  return keys.some(
    (key) => !key.partial && key.columns.length > 0 && key.columns.every((one) => columns.has(one.toLowerCase())),
  );
}

function joinConditions(shape: ViewShape): Expr[] {
  const parts: Expr[] = shape.where ? conjuncts(shape.where) : [];
  const visit = (source: ShapeSource["source"]): void => {
    if (source.kind !== "joined") return;
    visit(source.first);
    for (const join of source.joins) {
      visit(join.source);
      if (join.on) parts.push(...conjuncts(join.on));
    }
  };
  for (const source of shape.select?.from ?? []) visit(source);
  return parts;
}

function sideOf(expr: Expr, shape: ViewShape): { source: ShapeSource; column: string } | null {
  if (expr.kind !== "column") return null;
  const column = expr.path[expr.path.length - 1].text.toLowerCase();
  if (expr.path.length > 1) {
    const qualifier = expr.path[expr.path.length - 2].text.toLowerCase();
    const source = shape.sources.find(({ name }) => name.toLowerCase() === qualifier);
    return source ? { source, column } : null;
  }
  const holders = shape.sources.filter(
    ({ relation }) => relation?.object === "table" && relation.columns.some((one) => one.name.toLowerCase() === column),
  );
  return holders.length === 1 ? { source: holders[0], column } : null;
}
