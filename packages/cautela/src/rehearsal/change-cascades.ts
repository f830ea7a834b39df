import type { RippleEdge } from "../analysis/ripples/ripple.ts";
import { tableKey } from "../catalog/keys.ts";
import type { Table } from "../catalog/model.ts";
import { sameTable } from "./change-target.ts";
import type { ScriptStep, Written } from "./script-steps.ts";

/** How a key carries a change to the rows that refer to it. */
export interface Cascade {
  /** Pairs of a column and the one that it refers to. */
  on: [string, string][];
  /** The rows go; otherwise their columns change. */
  deletes: boolean;
}

/** The columns by which a table refers to the changed one, when nothing but its key carries the change to it. */
export function directCascade(step: ScriptStep, own: Written, parent: Table): Cascade | null {
  if (own.ways !== 1) return null;
  const nodes = step.fired.flatMap(({ ripple }) =>
    ripple.nodes
      .filter((node) => node.written && sameTable(node.relation, own.table))
      .map((node) => ({ node, ripple })),
  );
  if (nodes.length !== 1) return null;
  const [{ node, ripple }] = nodes;
  const incoming: RippleEdge[] = ripple.edges.filter((edge) => edge.to === node.id);
  if (incoming.length !== 1 || incoming[0].how !== "cascade" || incoming[0].from !== 0) return null;
  // What happens to these rows in turn is found by images.
  if (ripple.edges.some((edge) => edge.from === node.id && edge.how === "cascade" && edge.to === node.id)) return null;
  if (ripple.notes.some((note) => note.node === node.id && (note.kind === "rewrites" || note.kind === "swallows")))
    return null;
  const foreign = own.table.foreignKeys.find(
    (one) =>
      one.table === tableKey(parent.schema, parent.name) &&
      (one.name ?? `${own.table.name}(${one.columns.join(", ")})`) === incoming[0].name,
  );
  const referenced = foreign && foreign.referenced.length > 0 ? foreign.referenced : (parent.primaryKey?.columns ?? []);
  if (!foreign || referenced.length !== foreign.columns.length) return null;
  if (node.action !== "delete" && node.action !== "update") return null;
  return { on: foreign.columns.map((column, i) => [column, referenced[i]]), deletes: node.action === "delete" };
}
