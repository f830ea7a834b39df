import type { DialectId } from "../dialects/dialect.ts";
import { dialects } from "../dialects/index.ts";
import type { DialectGuess } from "./guess.ts";

/** Words by which folders and files are named after an engine; versions may follow. */
const NAMES: readonly (readonly [RegExp, DialectId])[] = [
  [/^(?:postgres|postgresql|pgsql|psql|plpgsql|pg)[\d]*$/, "postgresql"],
  [/^mysql[\d]*$/, "mysql"],
  [/^maria(?:db)?[\d]*$/, "mariadb"],
  [/^sqlite[\d]*$/, "sqlite"],
  [/^(?:mssql|tsql|sqlserver|sqlsrv)[\d]*$/, "tsql"],
  [/^(?:oracle|plsql)(?:\d+[a-z]*)?$/, "plsql"],
  [/^(?:msaccess|accdb|mdb)$/, "jet"],
];

/** What a path says of the language of a script. */
export interface NamedDialect extends DialectGuess {
  /** The file itself or its folder is named so; what is farther away says less. */
  near: boolean;
}

/**
 * The dialect that the path of a script names, the file before its folders and inner folders before outer ones; null: none.
 *
 * @example
 * pathDialect("install/mysql/3_rates.sql")?.dialect // "mysql"
 * pathDialect("rates-pgsql.sql")?.dialect           // "postgresql"
 */
export function pathDialect(path: string): NamedDialect | null {
  for (const [depth, step] of path.toLowerCase().split(/[/\\]/).reverse().entries()) {
    const found = new Set<DialectId>();
    for (const word of step.split(/[^a-z0-9]+/))
      for (const [name, dialect] of NAMES) if (name.test(word)) found.add(dialect);
    // "mysql-to-postgres" names two, and so none.
    if (found.size === 1) {
      const [dialect] = found;
      return { dialect, reason: `its path names ${dialects[dialect].title}`, near: depth < 2 };
    }
    if (found.size > 1) return null;
  }
  return null;
}
