import type { Assignment, Expr } from "../../sql/nodes/tree.ts";

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
