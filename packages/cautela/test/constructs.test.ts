import { catalogFromDdl, type DialectId, review } from "cautela";
import { afterAll, describe, expect, test } from "vitest";
import { CONSTRUCTS, LETTERS } from "../src/hazards/constructs.ts";
import { type Engine, threeEngines } from "./three-engines.ts";

// Which engine has which construct: the engines that are here are asked, and the review says the same.

const database = `cautela_constructs_${process.pid}`;
const TABLES = [
  "CREATE TABLE t (id integer PRIMARY KEY, a integer, s varchar(20))",
  "CREATE TABLE u (id integer PRIMARY KEY, a integer)",
  "CREATE TABLE w (a integer)",
];

/** A statement with each construct; what no engine here can be asked about alone is left out. */
const EXAMPLES: Partial<Record<keyof typeof CONSTRUCTS, string>> = {
  aliasOfUpdate: "UPDATE t AS x SET a = 1 WHERE x.id = 3",
  updateFrom: "UPDATE t SET a = 1 FROM u WHERE u.id = t.id",
  aliasOfDelete: "DELETE FROM t AS x WHERE x.id = 3",
  deleteStar: "DELETE * FROM t WHERE id = 3",
  deleteNamed: "DELETE t FROM t WHERE id = 3",
  ignoringAlter: "ALTER IGNORE TABLE t ADD UNIQUE (a)",
  limitedChange: "DELETE FROM t WHERE id = 3 LIMIT 1",
  orderedChange: "DELETE FROM t WHERE id = 3 ORDER BY id",
  limitInQuery: "SELECT a FROM t LIMIT 3",
  fetchWithoutOffset: "SELECT a FROM t ORDER BY a FETCH FIRST 3 ROWS ONLY",
  joinedUpdate: "UPDATE t JOIN u ON t.id = u.id SET t.a = 1",
  openReturning: "DELETE FROM t WHERE id = 3 RETURNING id",
  openUpdateReturning: "UPDATE t SET a = 1 WHERE id = 3 RETURNING id",
  onConflict: "INSERT INTO t (id) VALUES (1) ON CONFLICT DO NOTHING",
  onDuplicateKey: "INSERT INTO t (id) VALUES (1) ON DUPLICATE KEY UPDATE a = 1",
  emptyIn: "SELECT a FROM t WHERE id IN ()",
  merge: "MERGE INTO t USING u ON t.id = u.id WHEN MATCHED THEN DELETE",
  truncate: "TRUNCATE TABLE t",
  bareTruncate: "TRUNCATE t",
  joinUsing: "SELECT id FROM t JOIN u USING (id)",
  naturalJoin: "SELECT id FROM t NATURAL JOIN u",
  fullJoin: "SELECT t.id FROM t FULL JOIN u ON t.id = u.id",
  bareJoin: "SELECT t.id FROM t JOIN u ON t.id = u.id",
  joinWithoutOn: "SELECT t.id FROM t INNER JOIN u",
  colonCast: "SELECT a::text FROM t",
  cast: "SELECT CAST(a AS char(10)) FROM t",
  windowFunction: "SELECT count(*) OVER () FROM t",
  withQuery: "WITH x AS (SELECT 1 AS a) SELECT a FROM x",
  exceptOrIntersect: "SELECT id FROM t EXCEPT SELECT id FROM u",
  isTrue: "SELECT a FROM t WHERE (a = 1) IS TRUE",
  rowOfValues: "SELECT a FROM t WHERE (id, a) IN (SELECT id, a FROM u)",
  rowAssignment: "UPDATE t SET (a, s) = (1, 'x') WHERE id = 3",
  queryAssignment: "UPDATE t SET (id, a) = (SELECT 8, 9) WHERE id = 3",
  defaultValues: "INSERT INTO w DEFAULT VALUES",
  severalRows: "INSERT INTO u (id) VALUES (7), (8)",
  insertSet: "INSERT INTO t SET id = 7",
  replaceInto: "REPLACE INTO t (id) VALUES (1)",
  dropCascade: "DROP TABLE u CASCADE",
  modifyColumn: "ALTER TABLE t MODIFY a bigint",
  modifyColumnWord: "ALTER TABLE t MODIFY COLUMN a bigint",
  changeColumn: "ALTER TABLE t CHANGE a c bigint",
  dropBareColumn: "ALTER TABLE t DROP a",
  renameColumn: "ALTER TABLE t RENAME COLUMN a TO c",
  renameTable: "ALTER TABLE t RENAME TO v",
  renameTableStatement: "RENAME TABLE t TO v",
  alterColumnType: "ALTER TABLE t ALTER COLUMN a TYPE bigint",
  alterColumnNull: "ALTER TABLE t ALTER COLUMN a SET NOT NULL",
  alterColumnDefault: "ALTER TABLE t ALTER COLUMN a SET DEFAULT 3",
  orReplaceTable: "CREATE OR REPLACE TABLE v (a integer)",
  orReplaceView: "CREATE OR REPLACE VIEW v AS SELECT 1 AS a",
  ifNotExistsTable: "CREATE TABLE IF NOT EXISTS v (a integer)",
  createTableAs: "CREATE TABLE v AS SELECT a FROM t",
  autoIncrement: "CREATE TABLE v (a integer AUTO_INCREMENT PRIMARY KEY)",
  serial: "CREATE TABLE v (a serial)",
  concurrently: "CREATE INDEX CONCURRENTLY i ON t (a)",
  startTransaction: "START TRANSACTION",
  commentOn: "COMMENT ON TABLE t IS 'x'",
  topInQuery: "SELECT TOP 3 a FROM t",
};

const engines = await threeEngines(database);

describe.each(engines)("%s", (dialect: DialectId, connect) => {
  let engine: Engine | null = null;
  afterAll(async () => engine?.close());

  test("has the constructs that are said of it", async () => {
    engine = await connect();
    const catalog = catalogFromDdl(TABLES.join(";\n"), { dialect });
    const wrong: string[] = [];
    for (const [what, sql] of Object.entries(EXAMPLES)) {
      await engine.reset();
      for (const table of TABLES) await engine.run(table);
      const taken = await engine.run(sql).then(
        () => true,
        () => false,
      );
      const { has } = CONSTRUCTS[what as keyof typeof CONSTRUCTS];
      if (taken !== has.includes(LETTERS[dialect])) wrong.push(`${what} (${taken ? "taken" : "refused"}): ${sql}`);
      const refused = review(`${sql};`, { dialect, catalog }).findings.some(
        ({ hazard, weight }) => weight === "stop" && /^(?:other-dialect|unread|unknown-name)$/.test(hazard),
      );
      if (refused === taken) wrong.push(`${sql}: ${taken ? "taken" : "refused"}, and we say the contrary`);
    }
    expect(wrong).toEqual([]);
  });
});
