import { readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { fileURLToPath } from "node:url";
import Ajv from "ajv/dist/2020.js";
import { catalogFromDdl, type DialectId, dialectIds, report, review, reviewChangeSet } from "cautela";
import { reviewDocument } from "cautela/tools";
import { expect, test } from "vitest";

const demo = (path: string) => fileURLToPath(new URL(`../../../demo/${path}`, import.meta.url));
const schema = createRequire(import.meta.url)("cautela/review.schema.json");
const valid = new Ajv({ allErrors: true }).compile(schema);

const demoCatalog = (dialect: DialectId) =>
  catalogFromDdl(readFileSync(demo(`data/${dialect}.sql`), "utf8"), {
    dialect,
    onto: catalogFromDdl(readFileSync(demo(`schema/${dialect}.sql`), "utf8"), { dialect }),
  });

test.each(dialectIds)("the harbour database is read whole in %s", (dialect) => {
  const catalog = demoCatalog(dialect);
  expect(catalog.size).toBe(10);
  const mooring = [...catalog.tables()].find((table) => table.name.toLowerCase() === "mooring");
  expect(mooring?.columns.length).toBe(7);
  expect(mooring?.rows).toBe(240);
  expect(mooring?.foreignKeys.length).toBe(2);
  expect(mooring?.primaryKey?.columns.map((column) => column.toLowerCase())).toEqual(["mooring_id"]);
  for (const file of [`schema/${dialect}.sql`, `data/${dialect}.sql`]) {
    const { findings } = review(readFileSync(demo(file), "utf8"), { dialect });
    expect(findings).toEqual([]);
  }
});

// What each story is about: its findings, in the order of the script.
const STORIES: Record<string, string[]> = {
  "postgresql/01-new-tariff": ["runs-on-after-error"],
  "postgresql/02-raise-all-fees": ["every-row", "drifts-on-rerun", "trigger-writes", "drifts-on-rerun", "no-way-back"],
  "postgresql/03-vessel-sold": ["null-into-required", "no-way-back"],
  "postgresql/04-clear-tide-readings": ["hollow-filter"],
  "postgresql/05-renumber-berth": [
    "key-rewrite",
    "cascade",
    "trigger-blocks",
    "trigger-writes",
    "no-way-back",
    "dead-filter",
  ],
  "postgresql/06-import-scratch": ["fan-out", "no-way-back"],
  "postgresql/07-new-column": ["trigger-writes"],
  "postgresql/08-friday-evening": [
    "no-way-back",
    "hollow-filter",
    "reference-blocks",
    "hard-delete",
    "hollow-filter",
    "every-row",
    "unread",
  ],
  "postgresql/09-through-the-view": [
    "drifts-on-rerun",
    "view-passthrough",
    "cascade",
    "trigger-blocks",
    "trigger-writes",
    "no-way-back",
  ],
  "mysql/01-joined-raise": ["drifts-on-rerun", "trigger-writes", "no-way-back", "every-row", "toothless-join"],
  "mysql/02-clear-log": ["every-row", "hollow-filter"],
  "mariadb/01-joined-raise": ["drifts-on-rerun", "trigger-writes", "no-way-back", "every-row", "toothless-join"],
  "mariadb/02-clear-log": ["every-row", "hollow-filter"],
  "sqlite/01-tidy-owners": ["reference-blocks", "hard-delete", "no-way-back", "hollow-filter"],
  "sqlite/02-rebuild-tariff": ["loose-insert", "thin-backup"],
  "tsql/01-cut-off": ["stranded-filter"],
  "tsql/02-through-the-alias": [
    "drifts-on-rerun",
    "trigger-blocks",
    "trigger-writes",
    "runs-on-after-error",
    "unordered-limit",
    "no-way-back",
    "every-row",
  ],
  "plsql/01-pilots": ["no-way-back", "no-way-back", "every-row"],
  "plsql/02-empty-mail": ["hollow-filter"],
  "jet/01-berths-in-repair": ["every-row"],
  "jet/02-vessels": ["open-placeholder", "no-way-back", "no-way-back"],
};

test("every demo script tells its story", () => {
  const told: Record<string, string[]> = {};
  for (const dialect of dialectIds) {
    const catalog = demoCatalog(dialect);
    for (const file of readdirSync(demo(`scripts/${dialect}`))) {
      const result = review(readFileSync(demo(`scripts/${dialect}/${file}`), "utf8"), { dialect, catalog, path: file });
      told[`${dialect}/${file.replace(".sql", "")}`] = result.findings.map((finding) => finding.hazard);
      valid(reviewDocument([result]));
      expect(valid.errors).toBeNull();
    }
  }
  expect(told).toEqual(STORIES);
});

test("the result names places, targets, reach and writes", () => {
  const catalog = catalogFromDdl("CREATE TABLE berth (berth_id int PRIMARY KEY, a int, b int, UNIQUE (a, b));", {
    dialect: "postgresql",
  });
  const text = [
    "-- first",
    "UPDATE berth SET b = 1 WHERE berth_id = 3;",
    "DELETE FROM berth WHERE berth_id IN (1, 2, 2, 3);",
    "DELETE FROM berth WHERE a = 1 AND b = $1;",
    "DELETE FROM berth WHERE a = 1;",
    "DELETE FROM berth WHERE berth_id = 1 OR berth_id = 2;",
    "DELETE FROM berth WHERE berth_id = (SELECT max(berth_id) FROM berth);",
    "DELETE FROM berth WHERE berth_id = a;",
    "INSERT INTO berth (berth_id) VALUES (1), (2);",
  ].join("\r\n");
  const { statements } = review(text, { catalog });
  expect(statements.map((one) => [one.line, one.kind, one.reach])).toEqual([
    [2, "update", { bound: "one", rows: 1 }],
    [3, "delete", { bound: "few", rows: 3 }],
    [4, "delete", { bound: "one", rows: 1 }],
    [5, "delete", { bound: "some" }],
    [6, "delete", { bound: "few", rows: 2 }],
    [7, "delete", { bound: "one", rows: 1 }],
    [8, "delete", { bound: "some" }],
    [9, "insert", { bound: "few", rows: 2 }],
  ]);
  expect(statements[0]).toMatchObject({
    target: "public.berth",
    column: 1,
    endLine: 2,
    endColumn: 42,
    writes: [{ table: "public.berth", action: "update", columns: ["b"], via: "statement" }],
  });
});

test.each([
  ["UPDATE vessel SET class = m.status FROM mooring m WHERE m.vessel_id = vessel.vessel_id", "multiplied"],
  ["UPDATE vessel SET class = 'x' FROM mooring m WHERE m.vessel_id = vessel.vessel_id", "some"],
  ["UPDATE mooring SET status = v.class FROM vessel v WHERE v.vessel_id = mooring.vessel_id", "some"],
  ["INSERT INTO copy SELECT v.vessel_id FROM vessel v JOIN mooring m ON m.vessel_id = v.vessel_id", "multiplied"],
  ["INSERT INTO copy SELECT DISTINCT v.vessel_id FROM vessel v JOIN mooring m ON m.vessel_id = v.vessel_id", "some"],
  ["INSERT INTO copy SELECT m.mooring_id FROM mooring m JOIN vessel v ON m.vessel_id = v.vessel_id", "some"],
])("rows that are met several times: %s", (sql, bound) => {
  const catalog = catalogFromDdl(
    `CREATE TABLE vessel (vessel_id int PRIMARY KEY, class text);
     CREATE TABLE mooring (mooring_id int PRIMARY KEY, vessel_id int REFERENCES vessel, status text);
     CREATE TABLE copy (id int);`,
    { dialect: "postgresql" },
  );
  expect(review(sql, { catalog }).statements[0].reach?.bound).toBe(bound);
});

test("a policy softens, weighs and silences", () => {
  const sql = "DELETE FROM tide_reading;";
  expect(review(sql, { policy: { tables: { tide_reading: "log" } } }).verdict).toBe("clear");
  expect(review(sql, { policy: { weights: { "every-row": "note", "no-way-back": "note" } } }).verdict).toBe("note");
  const off = { "every-row": "off", "no-way-back": "off" } as const;
  expect(review(sql, { policy: { weights: off } }).findings).toEqual([]);
  expect(
    review(sql, { policy: { backup: { elsewhere: "the nightly dump" } } }).findings.map(({ hazard }) => hazard),
  ).toEqual(["every-row"]);
});

test("what turns up at the end of the script can be accepted on its statement", () => {
  const accepted = "-- cautela: accept no-way-back, the office keeps the list\nDELETE FROM berth WHERE berth_id = 3;";
  expect(review(accepted).findings.map(({ hazard, accepted: reason }) => [hazard, reason])).toEqual([
    ["no-way-back", "the office keeps the list"],
  ]);
  const idle = `${accepted.replace("no-way-back", "open-transaction")}`;
  expect(review(idle).findings.map(({ hazard }) => hazard)).toEqual(["no-way-back", "idle-accept"]);
});

test("without a catalog it says what was not judged", () => {
  const { unchecked, verdict } = review("DELETE FROM berth WHERE berth_id = 3;");
  expect(verdict).toBe("note");
  expect(unchecked).toEqual([
    {
      statement: 0,
      statements: [0],
      lines: [1],
      missing: expect.stringContaining("no catalog"),
      hazards: expect.any(Array),
    },
  ]);
});

test("a comment in the script chooses the dialect; the caller's word goes before it", () => {
  expect(review("-- cautela: dialect tsql\nDELETE berth").statements[0].kind).toBe("delete");
  expect(review("-- cautela: dialect tsql\nDELETE berth", { dialect: "sqlite" }).statements[0].kind).toBe("unread");
});

test("a dialect that does not exist is told as such", () => {
  const told = /no dialect is called "oracle"; the dialects are postgresql, /;
  // A caller without types may write anything.
  const dialect: DialectId = JSON.parse(`"oracle"`);
  expect(() => review("SELECT 1", { dialect })).toThrow(told);
  expect(() => catalogFromDdl("", { dialect })).toThrow(told);
});

/** What is found in the scripts of a change set, one after the other: hazard and weight, notes of the way back left out. */
const changeSet = (...texts: string[]): string[] => {
  const ddl = `CREATE TABLE owner (owner_id int PRIMARY KEY);
CREATE TABLE mooring (mooring_id int PRIMARY KEY, owner_id int, status varchar(20) NOT NULL, fee numeric(10,2),
  CONSTRAINT mooring_of FOREIGN KEY (owner_id) REFERENCES owner);
CREATE FUNCTION note_it() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN NEW; END';
CREATE TRIGGER audit BEFORE UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION note_it();`;
  const scripts = texts.map((text, i) => ({ text, path: `0${i + 1}.sql` }));
  return reviewChangeSet(scripts, { catalog: catalogFromDdl(ddl, { dialect: "postgresql" }) }).map(({ findings }) =>
    findings
      .filter(({ weight, hazard }) => weight !== "note" || hazard !== "no-way-back")
      .map(({ hazard, weight }) => `${hazard} ${weight}`)
      .join(),
  );
};

const WHOLE = "CREATE TABLE mooring_before AS SELECT * FROM mooring;";
const FEW = "DELETE FROM mooring WHERE status = 'left';";
test.each<[string, string[], string[]]>([
  [
    "a column",
    ["ALTER TABLE mooring ADD COLUMN code int NOT NULL;", "DELETE FROM mooring WHERE code IS NOT NULL;"],
    ["null-into-required ask", "hollow-filter stop"],
  ],
  ["a copy", [WHOLE, "TRUNCATE mooring;"], ["", "every-row ask"]],
  ["a copy of the rows", [WHOLE.replace(";", " WHERE status = 'left';"), FEW], ["", ""]],
  [
    "a copy of other rows",
    [WHOLE.replace(";", " WHERE status = 'left';"), "TRUNCATE mooring;"],
    ["", "every-row stop"],
  ],
  ["a temporary copy is gone", [WHOLE.replace("TABLE", "TEMP TABLE"), "TRUNCATE mooring;"], ["", "every-row stop"]],
  ["a copy that is rolled back", [`BEGIN; ${WHOLE} ROLLBACK;`, "TRUNCATE mooring;"], ["", "every-row stop"]],
  ["the copy goes at the end", [WHOLE, FEW, "DROP TABLE mooring_before;"], ["", "", ""]],
  ["a new column is filled", ["ALTER TABLE mooring ADD COLUMN depth int;", "UPDATE mooring SET depth = 0;"], ["", ""]],
  [
    "under the table's new name",
    ["ALTER TABLE mooring ADD COLUMN depth int; ALTER TABLE mooring RENAME TO berth;", "UPDATE berth SET depth = 0;"],
    ["", ""],
  ],
  [
    "what is refused is not there",
    ["ALTER TABLE moorings ADD COLUMN depth int;", "UPDATE mooring SET depth = 0 WHERE mooring_id = 3;"],
    ["unknown-name stop", "unknown-name stop"],
  ],
  [
    "a value that is gone",
    ["UPDATE mooring SET status = 'away' WHERE status = 'left';", FEW],
    ["", "stale-filter ask"],
  ],
  [
    "a value that breaks a rule",
    ["UPDATE mooring SET fee = -1 WHERE mooring_id = 3;", "ALTER TABLE mooring ADD CHECK (fee >= 0);"],
    ["", "unmet-constraint stop"],
  ],
  [
    "a trigger off and on",
    ["ALTER TABLE mooring DISABLE TRIGGER audit;", "ALTER TABLE mooring ENABLE TRIGGER audit;"],
    ["guard-off note", ""],
  ],
  [
    "a trigger off",
    ["ALTER TABLE mooring DISABLE TRIGGER audit;", "SELECT 1;"],
    ["guard-left-off ask,guard-off note", ""],
  ],
  [
    "a key put back",
    [
      "ALTER TABLE mooring DROP CONSTRAINT mooring_of;",
      "ALTER TABLE mooring ADD CONSTRAINT mooring_of FOREIGN KEY (owner_id) REFERENCES owner;",
    ],
    ["", ""],
  ],
  ["a key dropped", ["ALTER TABLE mooring DROP CONSTRAINT mooring_of;", "SELECT 1;"], ["guard-left-off ask", ""]],
  [
    "code nobody sees",
    [
      "DO $$ BEGIN EXECUTE 'ALTER TABLE mooring ADD ' || quote_ident(x); END $$;",
      "ALTER TABLE mooring DROP COLUMN depth;",
    ],
    ["opaque-code note", ""],
  ],
])("a script of a change set sees what the ones before it have done: %s", (_, texts, found) => {
  expect(changeSet(...texts)).toEqual(found);
});

test("a long change set: the catalog does not become deep", () => {
  const steps = Array.from(
    { length: 40 },
    (_, i) => `ALTER TABLE mooring ADD COLUMN c${i} int; ALTER TABLE mooring DROP COLUMN c${i - 3};`,
  );
  const last =
    "UPDATE mooring SET c37 = 1, c39 = 2 WHERE mooring_id = 1; UPDATE mooring SET c35 = 1 WHERE mooring_id = 1;";
  expect(
    changeSet(...steps.map((one, i) => (i < 3 ? one.slice(0, one.indexOf(" ALTER")) : one)), last).slice(3),
  ).toEqual([...steps.slice(3).map(() => ""), "unknown-name stop"]);
});

test.each([
  ["UPDATE berth SET code = “N 1” WHERE berth_id = 3;", "typographic quotes"],
  ["UPDATE berth {% if season %} SET code = 'N1';", "template"],
  ["<<<<<<< ours\nUPDATE berth SET code = 'N1';", "merge conflict"],
  ["12 UPDATE berth\n13 SET code = 'N1'\n14 WHERE berth_id = 3;", "numbers of its lines"],
])("why %s cannot be read", (text, cause) => {
  const [{ hazard, weight, because }] = review(text, { dialect: "postgresql" }).findings;
  expect([hazard, weight]).toEqual(["unread", "stop"]);
  expect(because.join()).toContain(cause);
});

test("one cause is one finding: the same at several places is told once, with its places", () => {
  const text = `UPDATE mooring SET fee = 1 WHERE status = 'a';
UPDATE mooring SET fee = 2 WHERE status = 'b';
-- cautela: accept every-row, the season is over
DELETE FROM mooring;
DELETE FROM mooring;

DELETE FROM mooring;`;
  const result = review(text, { dialect: "postgresql" });
  const told = result.findings.map(({ hazard, line, places, accepted }) => [
    hazard,
    line,
    places.map((one) => one.line),
    accepted,
  ]);
  expect(told).toContainEqual(["no-way-back", 1, [2], null]);
  expect(told).toContainEqual(["every-row", 4, [], "the season is over"]);
  expect(told).toContainEqual(["every-row", 5, [7], null]);
  expect(result.statements.map(({ verdict }) => verdict)).toEqual(["note", "note", "stop", "stop", "stop"]);
  expect(report(result, "text")).toMatch(/every-row\n.*\n +also on +line 7\n/);
  const many = review("DELETE FROM mooring;\n".repeat(40), { dialect: "postgresql" });
  expect(report(many, "text")).toContain("lines 2 to 40 (39 places)");
  valid(reviewDocument([many]));
  expect(valid.errors).toBeNull();
});

test("one cause is one finding: what is declared to say the same becomes a reason", () => {
  const found = (text: string, policy = {}) => review(text, { dialect: "postgresql", policy }).findings;
  const [only, ...others] = found("DELETE FROM mooring;");
  expect([only.hazard, only.weight, others]).toEqual(["every-row", "stop", []]);
  expect(only.because.join("; ")).toContain("nothing keeps what was there");
  expect(only.remedy).toContain("keep a copy first: CREATE TABLE mooring_before");
  const ids = (text: string, policy = {}) => found(text, policy).map(({ hazard, accepted }) => `${hazard} ${accepted}`);
  // Who accepts the one has not accepted the other; who accepts what is taken in has not accepted the one.
  expect(ids("-- cautela: accept every-row, the season is over\nDELETE FROM mooring;")).toEqual([
    "every-row the season is over",
    "no-way-back null",
  ]);
  expect(ids("-- cautela: accept no-way-back, the archive has it\nDELETE FROM mooring;")).toEqual(["every-row null"]);
  expect(ids("DELETE FROM mooring;", { weights: { "every-row": "off" } })).toEqual(["no-way-back null"]);
});

test("the text report fits its width and shows weight without colour", () => {
  const text = report(review("UPDATE mooring\nSET fee = fee * 1.05;", { path: "raise.sql" }), "text");
  expect(text.split("\n").every((line) => line.length <= 80)).toBe(true);
  expect(text).toContain("■ stop every-row");
  expect(text).toContain("■   1 UPDATE mooring");
  expect(text).toContain("████████████ reach: every row of mooring");
  expect(text).toContain("◧ drifts-on-rerun  Run twice");
  expect(text).toMatch(/^raise.sql {2}PostgreSQL, 1 statement: stop, ■ 1 stop, ◧ 1 ask, 1 unchecked\n/);
  const full = report(review("UPDATE mooring\nSET fee = fee * 1.05;", { path: "raise.sql" }), "text", { full: true });
  expect(full).toContain("◧ ask  drifts-on-rerun\n");
});

test.each([
  [
    "an element for each round",
    "plsql",
    "BEGIN FORALL i IN 1..ids.COUNT DELETE FROM berth WHERE berth_id = ids(i); END;\n/",
    "some",
  ],
  [
    "a variable that moves on",
    "tsql",
    "WHILE @i < 9 BEGIN DELETE FROM berth WHERE berth_id = @i; SET @i += 1; END",
    "some",
  ],
  ["a portion for each round", "tsql", "WHILE @@ROWCOUNT > 0 DELETE TOP (10) FROM berth;", "some"],
  [
    "the same row in each round",
    "tsql",
    "WHILE @i < 9 BEGIN DELETE FROM berth WHERE berth_id = 3; SET @i += 1; END",
    "one",
  ],
  ["a variable outside of a loop", "tsql", "DELETE FROM berth WHERE berth_id = @i;", "one"],
] as const)("the reach of %s", (_, dialect, sql, bound) => {
  const catalog = catalogFromDdl("CREATE TABLE berth (berth_id int NOT NULL PRIMARY KEY);", { dialect });
  const changed = review(sql, { dialect, catalog }).statements.find(({ kind }) => kind === "delete");
  expect(changed?.reach?.bound).toBe(bound);
});
