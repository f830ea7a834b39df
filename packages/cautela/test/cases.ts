import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { type DialectId, hazards, isDialectId, type Policy, policyFrom } from "cautela";

/** One case of a `.sql` file: a script, its dialect, its tables, and what must be found. */
export interface Case {
  name: string;
  dialects: DialectId[];
  /** The tables; null: the scripts are reviewed without a catalog. */
  ddl: string | null;
  sql: string;
  /** `statement hazard weight`, one a line; empty: nothing may be found. */
  expected: string[];
  /** The hazards that the file is about; empty: all. */
  hazards: string[];
  /** The team's rules under which they are reviewed. */
  policy: Policy | undefined;
}

/**
 * Reads the cases of a folder. A file holds a head with the tables and then cases:
 *
 *     -- hazards: every-row stranded-filter
 *     -- tables
 *     CREATE TABLE …
 *     -- policy: { "one-by-one": ["tariff"] }
 *     -- case: a name [dialect dialect]
 *     -- finds: 0 every-row stop
 *     UPDATE …
 *
 * A case without `finds` must be quiet. `-- no catalog` instead of `-- tables`: as a newcomer's first run is.
 */
export function casesOf(folder: string): Case[] {
  return readdirSync(folder)
    .filter((file) => file.endsWith(".sql"))
    .sort()
    .flatMap((file) => fileCases(file, readFileSync(join(folder, file), "utf8")));
}

/** A script in one dialect. */
export type Scenario = Pick<Case, "name" | "ddl" | "sql"> & { dialect: DialectId };

export const FAMILIES = ["rows", "joins", "values", "views", "ripples", "recovery", "order", "policy", "reading"];

/** Every case of every hazard in each of its dialects, and the dangerous example of each hazard. */
export function scenarios(): Scenario[] {
  const cases = FAMILIES.flatMap((family) => casesOf(fileURLToPath(new URL(`cases/${family}`, import.meta.url))));
  return [
    ...cases.flatMap(({ dialects, name, ddl, sql }) => dialects.map((dialect) => ({ name, ddl, sql, dialect }))),
    ...hazards.map(({ id, example: { ddl, dangerous, dialect } }) => ({ name: id, ddl, sql: dangerous, dialect })),
  ];
}

function fileCases(file: string, text: string): Case[] {
  const [head, ...parts] = text.split(/^-- case: /m);
  const hazards = /^-- hazards: (.*)$/m.exec(head)?.[1].split(" ") ?? [];
  const ddl = /^-- no catalog$/m.test(head) ? null : head.replace(/^-- (?:tables|hazards|policy).*\n/gm, "");
  const rules = /^-- policy: (.*)$/m.exec(head)?.[1];
  const policy = rules === undefined ? undefined : policyFrom(JSON.parse(rules));
  return parts.map((part) => {
    const [title, ...lines] = part.split("\n");
    const match = /^(.*?)\s*\[([a-z ]+)\]$/.exec(title);
    if (!match) throw new Error(`${file}: the case "${title}" names no dialect`);
    const dialects = match[2].split(" ").map((id) => {
      if (!isDialectId(id)) throw new Error(`${file}: ${id} is no dialect`);
      return id;
    });
    const expected = lines.filter((line) => line.startsWith("-- finds: ")).map((line) => line.slice(10).trim());
    const sql = lines.filter((line) => !line.startsWith("-- finds: ")).join("\n");
    return { name: `${file}: ${match[1]}`, dialects, ddl, sql, expected, hazards, policy };
  });
}
