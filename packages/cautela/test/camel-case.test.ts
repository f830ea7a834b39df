import { fileURLToPath } from "node:url";
import { type Catalog, catalogFromDdl, type DialectId, review } from "cautela";
import { expect, test } from "vitest";
import { casesOf, FAMILIES } from "./cases.ts";

// `mooring_id` and `MooringId` are the same two words: what is judged by the words of a name is judged alike, in dialects that
// compare names in any case and in one that takes them in quotes.

const TOKENS = /'(?:[^']|'')*'|--[^\n]*|\b[a-z]+(?:_[a-z0-9]+)+\b/g;
/** Names that engines make of others, and a case that is about the case of letters. */
const OTHERS = /^(?:given-names|sequences|counters)\.sql|other letters/;

test.each(["tsql", "sqlite", "mysql", "postgresql"] as const)("%s", (dialect) => {
  const cases = FAMILIES.flatMap((family) => casesOf(fileURLToPath(new URL(`cases/${family}`, import.meta.url))));
  const wrong: string[] = [];
  let met = 0;
  for (const { name, dialects, ddl, sql, policy } of cases) {
    if (!dialects.includes(dialect) || ddl === null || policy || OTHERS.test(name)) continue;
    const names = namesOf(catalogFromDdl(`${ddl}`, { dialect }));
    const inText = [...sql.matchAll(/'(?:[^']|'')*'|\$\$[^$]*\$\$|--[^\n]*/g)].some(([text]) =>
      [...names].some((one) => text.includes(one)),
    );
    if (inText || names.size === 0 || met++ % 2 === 1) continue;
    const change = (text: string): string =>
      text.replace(TOKENS, (word) => (names.has(word) ? camel(word, dialect) : word));
    const found = (tables: string, script: string): string =>
      review(script, { dialect, catalog: catalogFromDdl(tables, { dialect }) })
        .findings.map(({ statement, hazard, weight }) => `${statement} ${hazard} ${weight}`)
        .sort()
        .join(", ");
    const [plain, changed] = [found(ddl, sql), found(change(ddl), change(sql))];
    if (plain !== changed) wrong.push(`${name}\n${change(sql)}\n${plain}\n${changed}`);
  }
  expect(wrong.slice(0, 5)).toEqual([]);
  expect(met).toBeGreaterThan(200);
});

function camel(name: string, dialect: DialectId): string {
  const words = name.split("_").map((word) => word[0].toUpperCase() + word.slice(1));
  return dialect === "postgresql" ? `"${words.join("")}"` : words.join("");
}

/** The names of several words that the tables and their columns have. */
function namesOf(catalog: Catalog): Set<string> {
  const names = [...catalog.tables()].flatMap((table) => [table.name, ...table.columns.map((column) => column.name)]);
  return new Set(names.filter((name) => /^[a-z]+(?:_[a-z0-9]+)+$/.test(name)));
}
