import type { FiredRipple, RippleEdge, RippleNode } from "../analysis/ripples/ripple.ts";
import { tableKey } from "../catalog/catalog.ts";
import { shownName, type Table } from "../catalog/model.ts";
import type { ChangeText } from "./change-text.ts";
import type { CopyNames } from "./copy-names.ts";
import { where } from "./looks.ts";
import { type Kept, keyOf, type Sheet } from "./sheet.ts";
import type { SqlWriter } from "./sql-writer.ts";

/** The copy of the rows that a change meets. */
export function copyOf(writer: SqlWriter, name: string, text: ChangeText): string {
  return writer.copy(
    name,
    `${text.joined ? "DISTINCT " : ""}${text.ref}.*`,
    `FROM ${text.from}${where(text)}${text.unsettled ? "" : text.tail}`,
    text.head,
  );
}

/** Copies of the tables that views, triggers and keys write besides. */
export function rippleCopies(
  sheet: Sheet,
  fired: readonly FiredRipple[],
  own: Table,
  ownCopy: string | null,
  names: CopyNames,
  kept: Kept[],
): void {
  const { writer } = sheet;
  for (const { ripple } of fired) {
    const seen = new Map<Table, RippleNode[]>();
    for (const node of ripple.nodes) {
      const table = node.written && node.relation?.object === "table" ? node.relation : null;
      if (!table || table === own || ripple.edges.some((edge) => edge.to === node.id && edge.how === "partition"))
        continue;
      seen.set(table, [...(seen.get(table) ?? []), node]);
    }
    for (const [table, nodes] of seen) {
      if (kept.some((one) => one.table === table)) continue;
      const copy = names.next(table);
      const key = keyOf(table);
      const added = nodes.every(({ action }) => action === "insert");
      const cascade = added || nodes.length > 1 ? null : directCascade(nodes[0], ripple.edges, own, table);
      const shown = shownName(table);
      if (added && key) {
        kept.push({ table, copy, how: "added" });
        sheet.add(
          "before",
          "copy",
          `Note which rows ${shown} holds`,
          writer.copy(copy, writer.names(key), `FROM ${writer.table(table)}`),
        );
      } else if (cascade && ownCopy !== null) {
        kept.push({ table, copy, how: cascade.deletes ? "deleted" : "updated" });
        sheet.add(
          "before",
          "copy",
          `Keep the rows of ${shown} that hang on them`,
          writer.copy(
            copy,
            "c.*",
            `FROM ${writer.table(table)}${writer.as("c")}\nWHERE EXISTS (SELECT 1 FROM ${writer.name(ownCopy)}${writer.as("p")} WHERE ${cascade.on.map(([child, parent]) => `p.${writer.name(parent)} = c.${writer.name(child)}`).join(" AND ")})`,
          ),
        );
      } else {
        kept.push({ table, copy, how: "whole" });
        sheet.add(
          "before",
          "copy",
          `Keep ${shown}, of which rows change as well`,
          writer.copy(copy, "*", `FROM ${writer.table(table)}`),
        );
      }
    }
  }
}

/** The columns by which a table hangs on the changed one, when a key of its own carries the change to it directly. */
function directCascade(
  node: RippleNode,
  edges: readonly RippleEdge[],
  own: Table,
  table: Table,
): { on: [string, string][]; deletes: boolean } | null {
  const incoming = edges.filter((edge) => edge.to === node.id);
  if (incoming.length !== 1 || incoming[0].how !== "cascade" || incoming[0].from !== 0) return null;
  const foreign = table.foreignKeys.find(
    (one) =>
      one.table === tableKey(own.schema, own.name) &&
      (one.name ?? `${table.name}(${one.columns.join(", ")})`) === incoming[0].name,
  );
  const referenced = foreign && foreign.referenced.length > 0 ? foreign.referenced : (own.primaryKey?.columns ?? []);
  if (!foreign || referenced.length !== foreign.columns.length) return null;
  // Rows that hang on these rows in turn are met through copies of whole tables.
  return { on: foreign.columns.map((column, i) => [column, referenced[i]]), deletes: node.action === "delete" };
}
