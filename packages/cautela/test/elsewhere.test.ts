import { readdirSync, readFileSync } from "node:fs";
import { catalogFromDdl, type DialectId, rehearse, review } from "cautela";
import { terminated } from "cautela/tools";
import { describe, expect, test } from "vitest";
import { refusal } from "./second-grammar.ts";

// No engine of these languages runs here: what a rehearsal prints is read by grammars that others have written.

/** What the grammars do not know and the manuals have. */
const KNOWN: [DialectId, RegExp, string][] = [
  ["tsql", /^SET XACT_ABORT ON/, "a setting of the session (SET XACT_ABORT, Transact-SQL reference)"],
  [
    "tsql",
    /^ALTER TABLE \S+ DROP COLUMN IF EXISTS /,
    "IF EXISTS, since version 2016 (ALTER TABLE, Transact-SQL reference)",
  ],
];

describe.each(["tsql", "plsql"] as const)("%s", (dialect) => {
  const [head, ...parts] = readFileSync(new URL(`elsewhere/${dialect}.sql`, import.meta.url), "utf8").split(
    /^-- script: /m,
  );
  const ddl = head.replace("-- schema\n", "");
  const own = parts.map((part): [string, string, string] => [
    part.slice(0, part.indexOf("\n")),
    part.slice(part.indexOf("\n") + 1),
    ddl,
  ]);
  const demo = new URL(`../../../demo/`, import.meta.url);
  const schema = readFileSync(new URL(`schema/${dialect}.sql`, demo), "utf8");
  const scripts = readdirSync(new URL(`scripts/${dialect}`, demo)).map((name): [string, string, string] => [
    `demo ${name}`,
    readFileSync(new URL(`scripts/${dialect}/${name}`, demo), "utf8"),
    schema,
  ]);

  test.each([...own, ...scripts])("%s", (_, text, made) => {
    const catalog = catalogFromDdl(made, { dialect });
    const { sheets } = rehearse(review(text, { dialect, catalog }), { date: "20261127" });
    const printed = sheets
      .flatMap(({ queries }) => queries)
      .filter(({ purpose }) => purpose !== "script" && purpose !== "change");
    expect(printed.length).toBeGreaterThan(0);
    const refused = printed
      .map(({ sql }) => terminated(sql, dialect))
      .filter((sql) => !KNOWN.some(([id, pattern]) => id === dialect && pattern.test(sql)))
      .map((sql) => [sql, refusal(dialect, sql)])
      .filter(([, why]) => why !== null);
    expect(refused).toEqual([]);
    // Names of Oracle's older servers end at 30 characters.
    if (dialect === "plsql")
      for (const { sql } of printed)
        for (const [name] of sql.replaceAll(/'[^']*'/g, "").matchAll(/[A-Za-z_][\w$#]*|"[^"]*"/g))
          expect(name.replaceAll('"', "").length, name).toBeLessThanOrEqual(30);
  });
});
