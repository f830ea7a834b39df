import type { RelationObject } from "../../catalog/catalog.ts";
import type { Reach } from "../changes/reach.ts";
import type { RowChange } from "../changes/row-change.ts";

/** How the rows at a place relate to the rows that the statement itself touches. */
export type Spread = "same" | "one" | "some" | "every";

/** A table, view or routine that a statement reaches, with what is done there. */
export interface RippleNode {
  id: number;
  object: "table" | "view" | "routine";
  /** As messages show it. */
  name: string;
  action: "insert" | "update" | "delete" | "truncate" | "call";
  /** The columns that are written; null: all of them. */
  columns: readonly string[] | null;
  spread: Spread;
  /** Rows are really written here: not so for a view that passes on, or a routine. */
  written: boolean;
  /** About how many rows the table holds. */
  rows: number | null;
  /** The table or view of the catalog; null for a routine. */
  relation: RelationObject | null;
}

export type RippleHow = "statement" | "view" | "rule" | "trigger" | "cascade" | "routine" | "partition";

/** Why one place is reached from another. */
export interface RippleEdge {
  from: number;
  to: number;
  how: RippleHow;
  /** The trigger, key, rule, routine or view. */
  name: string;
  /** In one sentence. */
  reason: string;
  /** False where a condition decides that is not known here. */
  certain: boolean;
  /** The text that defines the trigger, key, rule or routine; empty where it is not known. */
  definition: string;
}

export type RippleNoteKind =
  | "rewrites"
  | "tidies"
  | "stamps"
  | "refuses"
  | "swallows"
  | "skipped"
  | "held"
  | "sealed"
  | "loop"
  | "opaque"
  | "computes";

/** What happens at a node besides writes to others, or does not happen there. */
export interface RippleNote {
  kind: RippleNoteKind;
  node: number;
  /** The trigger, key, routine or view that it is about. */
  name: string;
  text: string;
  /** With `tidies`: the trigger that gives new rows another form. */
  against?: string | null;
  columns: readonly string[];
  certain: boolean;
}

/** Everything that follows from one change: node 0 is the table or view that the statement names. */
export interface Ripple {
  nodes: readonly RippleNode[];
  edges: readonly RippleEdge[];
  notes: readonly RippleNote[];
  /** Why it is not followed to its end; null: it is. */
  cutOff: string | null;
}

/** A ripple with the change that sets it off. */
export interface FiredRipple {
  firing: RowChange;
  ripple: Ripple;
}

/** The bound on the rows at a node, from the reach of the statement. */
export function nodeReach(node: RippleNode, root: Reach): Reach {
  if (node.id === 0 && node.spread === "same") return root;
  switch (node.spread) {
    case "one":
      return { bound: "one", rows: 1 };
    case "every":
      return node.rows === null ? { bound: "every" } : { bound: "every", rows: node.rows };
    case "same":
      if (root.bound === "every" || root.bound === "multiplied" || root.bound === "some")
        return root.rows === undefined ? { bound: "some" } : { bound: "some", rows: root.rows };
      return root;
    case "some":
      return root.bound === "none" ? root : { bound: "some" };
  }
}
