import { catalogFromDdl, readScript, review } from "cautela";
import { walk } from "cautela/tools";
import { describe, expect, test } from "vitest";
import { refusal } from "./second-grammar.ts";
import { DDL, type Elsewhere, REFUSED, statementTable, type TableEntry } from "./statement-table.ts";

// What each statement of the table is, what it writes and what it names; the grammars of others take it as well.

/** What the second grammars do not know and the manuals have. */
const KNOWN: [Elsewhere, RegExp, string][] = [
  [
    "tsql",
    / WITH CHECK ADD CONSTRAINT \w+ CHECK /,
    "ALTER TABLE, Transact-SQL reference: WITH CHECK before any constraint",
  ],
  ["tsql", / NOCHECK CONSTRAINT ALL$/, "ALTER TABLE, Transact-SQL reference: NOCHECK CONSTRAINT { ALL | name }"],
  ["plsql", / TABLESPACE users ONLINE$/, "CREATE INDEX, Oracle SQL reference: index_attributes in any order"],
  ["plsql", / CASCADE CONSTRAINTS PURGE$/, "DROP TABLE, Oracle SQL reference: CASCADE CONSTRAINTS"],
];

const COUNT = 450;

describe.each(["tsql", "plsql", "jet"] as const)("%s", (dialect) => {
  const catalog = catalogFromDdl(DDL[dialect], { dialect });
  const table = statementTable(dialect, COUNT);

  test(`${COUNT} statements are read as what they are`, () => {
    const wrong: unknown[] = [];
    for (const entry of table) {
      const { sql, kind, columns } = entry;
      const list = readScript(`${sql};`, { dialect }).statements;
      const named = new Set<string>();
      for (const { tree } of list)
        walk(tree, (node) => {
          const name = node.kind === "table" ? node.name : null;
          if (name) named.add(name.parts[name.parts.length - 1].text.toLowerCase());
          return undefined;
        });
      const changes = ["update", "delete", "insert"].includes(kind);
      // DDL names its table in the statement itself.
      if (!changes && kind !== "select") named.add("berth");
      const write = review(`${sql};`, { dialect, catalog })
        .statements.at(-1)
        ?.writes?.find(({ via }) => via === "statement");
      const said: TableEntry = {
        sql,
        kind: list.map(({ kind: own }) => own).join(),
        target: changes ? (write?.table.split(".").pop()?.toLowerCase() ?? null) : entry.target,
        columns: columns && [...(write?.columns ?? [])].map((one) => one.toLowerCase()),
        tables: [...named].sort(),
      };
      if (JSON.stringify(said) !== JSON.stringify(entry)) wrong.push([said, entry]);
    }
    expect(wrong).toEqual([]);
  });

  test("what the engine refuses is said to be", () => {
    const quiet = REFUSED[dialect].filter((sql) => {
      const { findings } = review(sql.endsWith("/") ? sql : `${sql};`, { dialect, catalog });
      return !findings.some(({ weight }) => weight === "stop");
    });
    expect(quiet).toEqual([]);
  });

  test.runIf(dialect !== "jet")(
    "the second grammar takes them",
    () => {
      const refused = table
        .filter(({ sql }) => !KNOWN.some(([id, pattern]) => id === dialect && pattern.test(sql)))
        .map(({ sql }) => [sql, refusal(dialect, `${sql};`)])
        .filter(([, why]) => why !== null);
      expect(refused).toEqual([]);
    },
    120_000,
  );
});
