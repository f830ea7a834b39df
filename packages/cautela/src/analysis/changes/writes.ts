import type { Catalog } from "../../catalog/catalog.ts";
import { shownName } from "../../catalog/model.ts";
import { writtenName } from "../../catalog/names.ts";
import type { Name, Statement, UpdateStatement } from "../../sql/nodes/tree.ts";
import type { FiredRipple } from "../ripples/ripple.ts";
import { diverted, rippleWrites } from "../ripples/statement-ripples.ts";
import { assignedColumns } from "./assigned-columns.ts";
import { type Change, targetName } from "./change.ts";
import type { Reach } from "./reach.ts";
import type { Write } from "./write.ts";

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
    if (change.statement.kind === "update") write.columns = ownColumns(change, change.statement.assignments);
    writes.push(write);
  }
  for (const one of inWith(statement)) for (const write of addedRows(one, catalog)) writes.push(write);
  for (const write of addedRows(statement, catalog)) writes.push(write);
  // OUTPUT … INTO takes rows into another table.
  if ("returning" in statement && statement.returning?.into?.kind === "column") {
    const { path, start, end } = statement.returning.into;
    const into: Name = { kind: "name", parts: path, link: null, start, end };
    if (!path[0].text.startsWith("@")) writes.push({ table: shown(into, catalog), action: "insert", via: "statement" });
  }
  return writes;
}

/** The columns that an UPDATE of several tables writes of this one. */
function ownColumns({ names, scope, relation }: Change, assignments: UpdateStatement["assignments"]): string[] {
  const own = assignments.filter(({ targets: [target] }) => {
    const column = target?.kind === "column" ? names.resolve(target, scope) : undefined;
    return !column || !relation || column.relation === relation;
  });
  return assignedColumns(own);
}

/** The statements in WITH that bring rows in, and those in their own WITH (postgresql). */
function inWith(statement: Statement): Statement[] {
  const clause = statement.kind === "select" ? statement.query.with : "with" in statement ? statement.with : null;
  return (clause?.tables ?? []).flatMap(({ body }) =>
    body.kind === "query" ? [] : [...inWith(body), ...(body.kind === "insert" || body.kind === "merge" ? [body] : [])],
  );
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
