import { tableKey } from "../catalog/keys.ts";
import { type ForeignKey, shownName } from "../catalog/model.ts";
import type { HazardContext } from "./hazard.ts";

/** A table that refers to one which is dropped, and what its key does with the rows (sqlite). */
export interface DroppedParent {
  parent: string;
  child: string;
  key: ForeignKey;
  /** Foreign keys are on; otherwise nobody says so, and whoever connects may have switched them on. */
  sure: boolean;
}

/**
 * The tables whose rows refer to a table that is dropped where DROP TABLE deletes its rows first: "an implicit DELETE FROM is
 * executed" (sqlite.org, "Foreign Key Support", 5).
 *
 * @example
 * // PRAGMA foreign_keys = ON; DROP TABLE berth;   -- the rows of what refers to berth by ON DELETE CASCADE go with it
 */
export function droppedParents({ tree, catalog, dialect, session, creations }: HazardContext): DroppedParent[] {
  if (tree.kind !== "drop" || tree.object !== "table" || !dialect.engine.dropDeletesRows || !catalog) return [];
  if (session.keys === false) return [];
  return tree.names.flatMap((name) => {
    const table = catalog.resolve(name);
    if (!table || table.temporary) return [];
    const own = tableKey(table.schema, table.name);
    if (creations.made(own) !== null) return [];
    return catalog.referencing(own).flatMap((child) => {
      const key = child === table ? undefined : child.foreignKeys.find((one) => one.table === own);
      if (!key || creations.made(tableKey(child.schema, child.name)) !== null) return [];
      return [{ parent: shownName(table), child: shownName(child), key, sure: session.keys === true }];
    });
  });
}
