import type { Catalog } from "../../catalog/catalog.ts";
import { shownName } from "../../catalog/model.ts";
import { writtenName } from "../../catalog/names.ts";
import type { Name, Statement, TableSource } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";

/** A right that whoever runs a statement needs. */
export interface Privilege {
  /** `SELECT`, `INSERT`, `UPDATE`, `DELETE`, `TRUNCATE`, `ALTER`, `DROP`, `CREATE`, `EXECUTE`. */
  right: string;
  /** The table, view or routine as messages show it. */
  object: string;
}

/**
 * The rights that a statement asks of whoever runs it, from its own text: what triggers and views do runs with the
 * rights of their owners in most engines (SQL standard, part 2, 4.42; PostgreSQL manual, "Rules and Privileges").
 *
 * `target` names what an UPDATE or DELETE changes, where that stands behind an alias.
 *
 * @example
 * privilegesOf("UPDATE mooring SET fee = 0 WHERE berth_id IN (SELECT berth_id FROM berth)")
 * // UPDATE and SELECT on mooring, SELECT on berth
 */
export function privilegesOf(tree: Statement, catalog: Catalog | null, target: string | null = null): Privilege[] {
  return needed(tree, catalog, target, new Set());
}

/** As {@link privilegesOf}; `common` gathers the names that WITH defines, which are no tables. */
function needed(tree: Statement, catalog: Catalog | null, target: string | null, common: Set<string>): Privilege[] {
  const list: Privilege[] = [];
  const shown = (name: Name): string => {
    const relation = catalog?.resolveRelation(name);
    return relation ? shownName(relation) : writtenName(name);
  };
  const need = (right: string, object: string): void => {
    if (!list.some((one) => one.right === right && one.object === object)) list.push({ right, object });
  };
  const read = (node: Statement, written: ReadonlySet<TableSource>): void => {
    walk(node, (one) => {
      const clause = one.kind === "query" ? one.with : "with" in one ? one.with : null;
      for (const table of clause?.tables ?? []) common.add(table.name.text.toLowerCase());
      // A statement inside WITH asks for rights of its own.
      if (
        one !== node &&
        (one.kind === "insert" || one.kind === "update" || one.kind === "delete" || one.kind === "merge")
      ) {
        for (const { right, object } of needed(one, catalog, null, common)) need(right, object);
        return false;
      }
      if (one.kind !== "table" || written.has(one)) return undefined;
      if (one.name.parts.length > 1 || !common.has(one.name.parts[0].text.toLowerCase()))
        need("SELECT", shown(one.name));
      return undefined;
    });
  };
  switch (tree.kind) {
    case "update": {
      const [first] = tree.target;
      const own = target ?? (first?.kind === "table" ? shown(first.name) : null);
      if (own !== null) need("UPDATE", own);
      if (own !== null) need("SELECT", own);
      read(tree, new Set(tree.target.filter((one) => one.kind === "table")));
      break;
    }
    case "delete": {
      const [first] = tree.from;
      const own = target ?? (first?.kind === "table" ? shown(first.name) : null);
      if (own !== null) need("DELETE", own);
      read(tree, new Set(!tree.where && first?.kind === "table" && tree.from.length === 1 ? [first] : []));
      break;
    }
    case "insert":
      if (tree.target.kind !== "table") break;
      need("INSERT", shown(tree.target.name));
      if (tree.replace) need("DELETE", shown(tree.target.name));
      if (tree.conflicts.some(({ action }) => action === "update")) need("UPDATE", shown(tree.target.name));
      // To look for the row that is in the way is to read.
      if (tree.conflicts.some((one) => one.target.length > 0 || one.action === "update"))
        need("SELECT", shown(tree.target.name));
      read(tree, new Set([tree.target]));
      break;
    case "merge":
      if (tree.target.kind !== "table") break;
      for (const { action } of tree.whens)
        if (action !== "nothing") need(action.toUpperCase(), shown(tree.target.name));
      read(tree, new Set());
      break;
    case "truncate":
      for (const { name } of tree.targets) need("TRUNCATE", shown(name));
      break;
    case "alter-table":
      need("ALTER", shown(tree.name));
      break;
    case "drop":
      for (const name of tree.names) need("DROP", shown(name));
      break;
    case "create-table":
      need("CREATE", writtenName(tree.name));
      read(tree, new Set());
      break;
    case "call-statement":
      if (tree.name) need("EXECUTE", writtenName(tree.name));
      break;
    case "select":
      read(tree, new Set());
      break;
    default:
  }
  return list;
}
