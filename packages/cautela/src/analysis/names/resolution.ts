import type { Column, Table, View } from "../../catalog/model.ts";
import type { ColumnRef, Node, Query, Source, TableSource } from "../../sql/nodes/tree.ts";
import type { Memo } from "../statement/memo.ts";

// What was found about the names of a statement, as the analysis and the hazards read it.

/** A column that a relation offers. */
export interface OfferedColumn {
  name: string;
  /** What the catalog knows of it, when it comes straight from a table. */
  column: Column | null;
}

/** One relation of a FROM clause, or the target of a change. */
export interface BoundRelation {
  /** The name under which the query refers to it, folded. */
  name: string;
  source: Source | null;
  table: Table | null;
  view: View | null;
  /** The query of a derived table or a common table expression. */
  query: Query | null;
  /** Its columns in order; null where they are not known. */
  columns: readonly OfferedColumn[] | null;
}

/** The names in sight at one level of a statement. */
export interface ResolvedScope {
  relations: BoundRelation[];
  outer: ResolvedScope | null;
  /** The names of the select list, where the dialect lets clauses refer to them. */
  aliases: ReadonlySet<string>;
  /** The select or the change whose level it is. */
  node: Node;
}

export type BindingStatus = "bound" | "alias" | "unknown" | "ambiguous" | "undecided";

/** One reference to a column. */
export interface Binding {
  node: ColumnRef;
  scope: ResolvedScope;
  status: BindingStatus;
  relation: BoundRelation | null;
  offered: OfferedColumn | null;
  /** How many levels further out it was found: 0 is the query it stands in. */
  level: number;
  /** The relations among which it is ambiguous. */
  candidates: readonly BoundRelation[];
  /** The qualifier names no relation in sight, or the column is not in the one it names. */
  reason: "relation" | "column" | null;
}

/** A relation that a statement names and the catalog does not hold. */
export interface MissingRelation {
  source: TableSource;
}

/** All that was found about the names of one statement. */
export interface Resolution {
  bindings: Map<ColumnRef, Binding>;
  /** Those of them that mean nothing, or several things. */
  open: Binding[];
  scopes: Map<Node, ResolvedScope>;
  missing: MissingRelation[];
  /** What is worked out of the statement by means of its names. */
  memo: Memo;
}
