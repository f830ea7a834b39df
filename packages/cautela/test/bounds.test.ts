import { catalogFromDdl, dialectIds, rehearsalText, rehearse, report, review, trace } from "cautela";
import { describe, expect, test } from "vitest";

// Nothing is too long or too deep to be answered: it is judged, or listed as unchecked.

const TABLE = "CREATE TABLE t (id integer PRIMARY KEY, a text, b boolean);";
const known = catalogFromDdl(TABLE, { dialect: "postgresql" });

/** All that is made of a review. */
function everything(script: string, dialect: (typeof dialectIds)[number], catalog = known) {
  const result = review(script, { dialect, catalog: catalog.dialect === dialect ? catalog : undefined });
  trace(result);
  rehearsalText(rehearse(result, { date: "1" }));
  report([result], "text");
  return result;
}

const chain = (element: string, operator: string) => Array(100_000).fill(element).join(` ${operator} `);
test.each([
  ["SET with ||", `UPDATE t SET a = ${chain("'a'", "||")} WHERE id = 1`],
  ["SET with *", `UPDATE t SET id = ${chain("2", "*")} WHERE id = 1`],
  ["WHERE with AND", `DELETE FROM t WHERE ${chain("b", "AND")}`],
  ["WHERE with +", `DELETE FROM t WHERE id = ${chain("1", "+")}`],
  ["signs", `DELETE FROM t WHERE id = ${"- ".repeat(100_000)}1`],
  ["casts", `DELETE FROM t WHERE id = 1${"::integer".repeat(100_000)}`],
  ["collations", `DELETE FROM t WHERE a = 'x'${' COLLATE "C"'.repeat(100_000)}`],
  ["IS NULL", `DELETE FROM t WHERE a${" IS NULL".repeat(100_000)}`],
  ["subqueries", `DELETE FROM t WHERE id IN ${"(SELECT id FROM t WHERE id IN ".repeat(5000)}(1)${")".repeat(5000)}`],
  [
    "joins",
    `DELETE FROM t USING t x ${Array.from({ length: 3000 }, (_, i) => `JOIN t j${i} ON j${i}.id = x.id`).join(" ")}`,
  ],
])("a change with 100,000 terms: %s", (_, script) => {
  const { statements, findings, unchecked } = everything(script, "postgresql");
  expect(statements).toHaveLength(1);
  expect(findings.length + unchecked.length).toBeGreaterThan(0);
});

test.each([
  ["tsql", `EXEC(${chain("'DELETE FROM t '", "+")});`],
  ["tsql", `DECLARE @s nvarchar(max); SET @s = ${chain("@x", "+")}; EXEC(@s);`],
  ["plsql", `BEGIN EXECUTE IMMEDIATE ${chain("x", "||")}; END;\n/`],
  ["postgresql", `DO $$ BEGIN EXECUTE ${chain("'DELETE FROM t '", "||")}; END $$;`],
  ["mysql", `SET @q = CONCAT(${Array(100_000).fill("'DELETE FROM t '").join()}); PREPARE s FROM @q;`],
] as const)("a text of 100,000 pieces that is run: %s", (dialect, script) => {
  expect(everything(script, dialect).unchecked.length).toBeGreaterThan(0);
});

test("EXISTS with 100,000 conditions", () => {
  const script = `DELETE FROM t WHERE EXISTS (SELECT 1 FROM t x WHERE ${chain("t.id = t.id", "AND")})`;
  expect(everything(script, "postgresql").statements).toHaveLength(1);
});

// Work that doubles with each level would not end here.
const nested = (by: (inner: string, i: number) => string, innermost: string) =>
  Array.from({ length: 40 }).reduce<string>((inner, _, i) => by(inner, i), innermost);
test.each([
  ["sums of columns", nested((inner, i) => `${i % 2 ? "id" : "t.id"} + (${inner})`, "id"), "id"],
  ["CASE in WHEN", nested((inner) => `CASE WHEN ${inner} > 1 THEN id ELSE 0 END`, "id"), "id"],
  ["functions", nested((inner) => `coalesce(${inner}, id)`, "id"), "id"],
  ["BETWEEN", nested((inner) => `((${inner}) BETWEEN b AND true)`, "b"), "b"],
  ["NOT BETWEEN", nested((inner) => `((${inner}) NOT BETWEEN b AND true)`, "b"), "b"],
  ["AND and OR", nested((inner, i) => `(id = ${i} ${i % 2 ? "AND" : "OR"} ${inner})`, "b"), "b"],
  ["NOT before AND", nested((inner, i) => `NOT (id = ${i} AND ${inner})`, "b"), "b"],
  ["equal conditions", nested((inner) => `((${inner}) = (id > 1))`, "b"), "b"],
])("40 levels of %s", (_, value, column) => {
  const filter = column === "b" ? value : `${value} > 3`;
  const script = `UPDATE t SET ${column} = ${value} WHERE id > 1;\nDELETE FROM t WHERE ${filter};\nINSERT INTO t (id, ${column === "b" ? "b" : "a"}) SELECT id, ${value} FROM t;`;
  expect(everything(script, "postgresql").statements).toHaveLength(3);
  expect(everything(script.replaceAll("t.id", "id"), "mysql").statements).toHaveLength(3);
});

describe("ripples 2,000 deep", () => {
  const list = (one: (i: number) => string) =>
    `CREATE TABLE c0 (id integer PRIMARY KEY);${Array.from({ length: 1999 }, (_, i) => one(i + 1)).join("")}`;
  test.each([
    ["keys", list((i) => `CREATE TABLE c${i} (id integer PRIMARY KEY REFERENCES c${i - 1} (id) ON DELETE CASCADE);`)],
    [
      "triggers",
      list(
        (i) =>
          `CREATE TABLE c${i} (id integer PRIMARY KEY); CREATE TRIGGER g${i} AFTER DELETE ON c${i - 1} BEGIN DELETE FROM c${i} WHERE id = OLD.id; END;`,
      ),
    ],
    ["views", list((i) => `CREATE VIEW v${i} AS SELECT * FROM ${i === 1 ? "c0" : `v${i - 1}`};`)],
  ])("%s: what is not followed is listed", (what, ddl) => {
    const catalog = catalogFromDdl(ddl, { dialect: "sqlite" });
    const { unchecked } = everything(
      `DELETE FROM ${what === "views" ? "v1999" : "c0"} WHERE id = 1`,
      "sqlite",
      catalog,
    );
    if (what !== "views") expect(unchecked.map(({ missing }) => missing).join()).toContain("followed");
  });
});

test.each([
  "ALTER TABLE crate ADD tag int NOT",
  "DELETE FROM crate WHERE",
  "UPDATE crate SET tag = 1 WHERE tag BETWEEN 1 AND",
  "INSERT INTO crate",
  "CREATE TABLE",
  "DROP TABLE",
  '{ "a": 1, "b": [1, 2] }',
  "[1]",
])("what is cut off, or no SQL, is unread and its range lies in the text: %s", (text) => {
  for (const dialect of dialectIds) {
    const { findings } = review(`SELECT 1 FROM a;\n${text}`, { dialect });
    expect(
      findings
        .filter(({ hazard }) => hazard === "unread")
        .map(({ endLine, endColumn }) => [endLine, endColumn <= text.length + 1]),
      dialect,
    ).toEqual([[2, true]]);
  }
});

test("what is unchecked for the same reason is kept once", () => {
  const { unchecked } = review("DELETE FROM a WHERE b = 1;\n".repeat(500), { dialect: "sqlite" });
  expect(unchecked).toHaveLength(1);
  expect(unchecked[0].statements).toHaveLength(500);
});
