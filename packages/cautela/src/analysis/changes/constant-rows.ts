import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { isPseudoColumn } from "../names/pseudo-columns.ts";

/** Whether a row of VALUES holds nothing that is read from a table: literals, parameters, functions of them. */
export function isConstantRow(row: readonly Expr[], dialect: Dialect): boolean {
  return row.every((value) => isConstantValue(value, dialect));
}

/** Whether a value is the same whatever the tables hold. */
export function isConstantValue(value: Expr, dialect: Dialect): boolean {
  if (value.kind === "literal" || value.kind === "placeholder") return true;
  let reads = false;
  walk(value, (node) => {
    if (node.kind === "table") reads = true;
    if (node.kind === "column" && !(node.path.length === 1 && isPseudoColumn(foldName(node.path[0], dialect), dialect)))
      reads = true;
    return !reads;
  });
  return !reads;
}
