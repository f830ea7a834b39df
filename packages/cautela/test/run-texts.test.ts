import { fileURLToPath } from "node:url";
import { catalogFromDdl, type DialectId, readScript, review } from "cautela";
import { expect, test } from "vitest";
import { casesOf, FAMILIES } from "./cases.ts";

// A change in a text that is run is told of word for word like one that is not: with what it says, and with the SQL that is
// printed to be run.

const RUN: readonly (readonly [DialectId, (text: string) => string, number])[] = [
  ["tsql", (text) => `EXEC(N'${text}');`, 1],
  ["plsql", (text) => `BEGIN EXECUTE IMMEDIATE '${text}'; END;\n/`, 3],
  ["postgresql", (text) => `DO $$ BEGIN EXECUTE '${text}'; END $$;`, 3],
  ["mysql", (text) => `PREPARE s FROM '${text}';`, 3],
];
const ROWS = new Set(["insert", "update", "delete", "merge", "truncate"]);
/** Where the client goes on is a matter of the block, and a variable may be set where the text is run. */
const OTHERWISE = /^(?:runs-on-after-error|open-placeholder)\b|typographic|‘/;

test.each(RUN)("%s", (dialect, run, every) => {
  const wrong: string[] = [];
  let met = 0;
  const cases = FAMILIES.flatMap((family) => casesOf(fileURLToPath(new URL(`cases/${family}`, import.meta.url))));
  for (const { name, dialects, ddl, sql, policy } of cases) {
    if (!dialects.includes(dialect) || met++ % every !== 0) continue;
    const { statements } = readScript(sql, { dialect });
    if (statements.some(({ kind, comments, repeat }) => !ROWS.has(kind) || comments.length > 0 || repeat > 1)) continue;
    const catalog = ddl === null ? undefined : catalogFromDdl(ddl, { dialect });
    // A MERGE of T-SQL ends with a semicolon of its own.
    const texts = statements.map(({ kind, start, end }) => `${sql.slice(start, end)}${kind === "merge" ? ";" : ""}`);
    const said = (script: string): string[] =>
      review(script, { dialect, catalog, policy })
        .findings.map(({ hazard, weight, message, because, remedy }) => [hazard, weight, message, ...because, remedy])
        .map((parts) => parts.join(" | ").replace(/\bline \d+/gi, "line"))
        .filter((text) => !OTHERWISE.test(text))
        .sort();
    const plain = said(texts.map((text) => `${text};`).join("\n"));
    const quoted = said(texts.map((text) => run(text.replaceAll("'", "''"))).join("\n"));
    if (plain.join("\n") !== quoted.join("\n")) wrong.push([name, ...plain, "---", ...quoted].join("\n"));
  }
  expect(wrong.slice(0, 5)).toEqual([]);
  expect(met).toBeGreaterThan(100);
});
