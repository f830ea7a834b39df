import type { Catalog } from "../../catalog/catalog.ts";
import { shownName } from "../../catalog/model.ts";
import { writtenName } from "../../catalog/names.ts";
import type { Name, Statement } from "../../sql/nodes/tree.ts";
import type { JudgedChange } from "../changes/judged-change.ts";

/** The name of what a statement works on, where it is not a change of rows. */
export function namedTarget(tree: Statement): Name | null {
  switch (tree.kind) {
    case "insert":
    case "merge":
      return tree.target.kind === "table" ? tree.target.name : null;
    case "create-table":
    case "create-view":
    case "create-routine":
    case "alter-table":
    case "opaque":
      return tree.name;
    case "create-index":
    case "copy":
      return tree.table;
    case "drop":
      return tree.names[0] ?? null;
    case "rename":
      return tree.table ?? tree.renames[0]?.from ?? null;
    default:
      return null;
  }
}

/** The tables that a statement changes, rows or structure, as messages name them. */
export function changedTables(
  tree: Statement,
  changes: readonly Pick<JudgedChange, "target">[],
  catalog: Catalog | null,
): string[] {
  if (changes.length > 0) return changes.map(({ target }) => target);
  const own = namedTarget(tree);
  const names = tree.kind === "drop" ? tree.names : own ? [own] : [];
  return names.map((name) => {
    const table = catalog?.resolve(name);
    return table ? shownName(table) : writtenName(name);
  });
}
