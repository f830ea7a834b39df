import { writtenName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { TableSource } from "../../sql/nodes/tree.ts";
import type { Resolution } from "./resolution.ts";

const SYSTEM_SCHEMAS = /^(?:information_schema|pg_catalog|performance_schema|mysql|sys|sqlite|pg_temp)$/i;
const SYSTEM_TABLES =
  /^(?:dual|sqlite_(?:master|schema|sequence|temp_master|stat\d)|pg_\w+|(?:user|all|dba|v\$)\w+|msys\w+|sys(?:objects|columns|indexes)|inserted|deleted|new|old|excluded)$/i;

/** Whether a table is the engine's own, or lives only in the session: no catalog has to hold it. */
export function isEnginesOwn(source: TableSource, dialect: Dialect): boolean {
  const { parts } = source.name;
  const last = parts[parts.length - 1].text;
  if (source.name.parts.some((part) => part.hole) || source.name.link) return true;
  if (last.startsWith("#") || last.startsWith("@")) return true;
  if (parts.length > 1 && SYSTEM_SCHEMAS.test(parts[parts.length - 2].text)) return true;
  // Another database or server (tsql), which the catalog does not refer to.
  if (dialect.engine.threePartNames && parts.length > 2) return true;
  if (/^(?:user|all)_/i.test(last) && !dialect.engine.dictionaryViews) return false;
  return SYSTEM_TABLES.test(last);
}

/** The tables that a statement names and the catalog does not hold, each once. */
export function missingTables(names: Resolution, context: { dialect: Dialect }): string[] {
  const shown = new Set<string>();
  for (const { source } of names.missing)
    if (!isEnginesOwn(source, context.dialect)) shown.add(writtenName(source.name));
  return [...shown];
}
