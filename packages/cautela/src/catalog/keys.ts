import type { Dialect } from "../sql/dialects/dialect.ts";
import type { Name } from "../sql/nodes/tree.ts";
import { ownText } from "../text/own-text.ts";
import { tableNameOf } from "./names.ts";

/** Keys by schema and name: one string for each, which compares and hashes faster than equal ones. */
const keys = new Map<string, Map<string, string>>();
let kept = 0;
const KEPT = 100_000;

/** The key of an object in the catalog. */
export function tableKey(schema: string, name: string): string {
  let names = keys.get(schema);
  const known = names?.get(name);
  if (known !== undefined) return known;
  const key = ownText(`${schema}\u0000${name}`);
  if (++kept > KEPT) {
    keys.clear();
    names = undefined;
    kept = 1;
  }
  if (!names) {
    names = new Map();
    keys.set(ownText(schema), names);
  }
  names.set(ownText(name), key);
  return key;
}

/** The schema and the name in a key. */
export function keyParts(key: string): { schema: string; name: string } {
  const at = key.indexOf("\u0000");
  return { schema: key.slice(0, at), name: key.slice(at + 1) };
}

/** The key of a table or a view of that name: in the schema that it names, or in the dialect's usual one. */
export function nameKey(name: Name, dialect: Dialect): string {
  const { schema, table } = tableNameOf(name, dialect);
  return tableKey(schema, table);
}
