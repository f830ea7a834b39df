import { catalogFromDdl, type DialectId, report, reviewChangeSet } from "cautela";
import { describe, expect, test } from "vitest";

// Scripts that take others back: what they do not bring back, and what they are worth to the script that they take back.

const DDL = `
CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), CONSTRAINT named CHECK (name <> ''));
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, owner_id integer NOT NULL, fee numeric(10,2) NOT NULL,
  FOREIGN KEY (owner_id) REFERENCES owner (owner_id));
CREATE VIEW known_owner AS SELECT owner_id, name FROM owner;
CREATE INDEX owner_name ON owner (name);
`;

function judged(change: string, undo: string, dialect: DialectId = "postgresql") {
  const catalog = catalogFromDdl(DDL, { dialect });
  const [forward, back] = reviewChangeSet(
    [{ text: change, dialect, path: "3.sql", undo: { text: undo, path: "3.undo.sql" } }],
    {
      catalog,
    },
  );
  const gap = back.findings.find(({ hazard }) => hazard === "undo-gap");
  return {
    forward,
    back,
    gap: gap ? (gap.because.length > 1 ? gap.because : [gap.message.split("took: ")[1].slice(0, -1)]) : [],
  };
}

describe("brings all structure back", () => {
  test.each([
    ["a table", "CREATE TABLE crane (crane_id int PRIMARY KEY);", "DROP TABLE crane;"],
    [
      "a column, with its fill",
      "ALTER TABLE owner ADD COLUMN mail varchar(80); UPDATE owner SET mail = 'x' WHERE owner_id > 3;",
      "ALTER TABLE owner DROP COLUMN mail;",
    ],
    ["a view", "DROP VIEW known_owner;", "CREATE VIEW known_owner AS SELECT owner_id,\n  name FROM owner;"],
    [
      "an index",
      "DROP INDEX owner_name; CREATE INDEX owner_phone ON owner (phone);",
      "DROP INDEX owner_phone; CREATE INDEX owner_name ON owner (name);",
    ],
    [
      "a name",
      "ALTER TABLE owner RENAME COLUMN phone TO telephone;",
      "ALTER TABLE owner RENAME COLUMN telephone TO phone;",
    ],
    [
      "a wider type",
      "ALTER TABLE owner ALTER COLUMN phone TYPE varchar(40);",
      "ALTER TABLE owner ALTER COLUMN phone TYPE varchar(20);",
    ],
    [
      "a constraint under another name",
      "ALTER TABLE owner DROP CONSTRAINT named;",
      "ALTER TABLE owner ADD CONSTRAINT is_named CHECK (name <> '');",
    ],
    [
      "rows brought and taken away",
      "INSERT INTO owner VALUES (91, 'Ada Storm', NULL);",
      "DELETE FROM owner WHERE owner_id = 91;",
    ],
    [
      "a column kept aside",
      "CREATE TABLE kept AS SELECT owner_id, phone FROM owner; ALTER TABLE owner DROP COLUMN phone;",
      "ALTER TABLE owner ADD COLUMN phone varchar(20); UPDATE owner SET phone = kept.phone FROM kept WHERE kept.owner_id = owner.owner_id; DROP TABLE kept;",
    ],
  ])("%s", (_, change, undo) => {
    const { gap, back } = judged(change, undo);
    expect(gap).toEqual([]);
    expect(back.findings.filter(({ weight }) => weight !== "note")).toEqual([]);
  });
});

describe("leaves a gap", () => {
  test.each([
    ["a table", "CREATE TABLE crane (crane_id int PRIMARY KEY);", "SELECT 1;", ["table `public.crane` stays"]],
    [
      "a column",
      "ALTER TABLE owner DROP COLUMN phone;",
      "ALTER TABLE owner ADD COLUMN phone varchar(20);",
      ["column `phone` of `public.owner` comes back empty"],
    ],
    [
      "a type",
      "ALTER TABLE mooring ALTER COLUMN fee TYPE numeric(12,4);",
      "ALTER TABLE mooring ALTER COLUMN fee TYPE numeric(12,2);",
      ["`fee` of `public.mooring` is `numeric(12, 2)`, and was `numeric(10, 2)`"],
    ],
    [
      "NOT NULL",
      "ALTER TABLE owner ALTER COLUMN name DROP NOT NULL;",
      "SELECT 1;",
      ["`name` of `public.owner` is no longer NOT NULL"],
    ],
    [
      "a view",
      "DROP VIEW known_owner;",
      "CREATE VIEW known_owner AS SELECT owner_id FROM owner;",
      ["view `public.known_owner` is another than it was"],
    ],
    ["an index", "DROP INDEX owner_name;", "SELECT 1;", ["index `owner_name` is gone"]],
    [
      "a key",
      "ALTER TABLE mooring DROP CONSTRAINT mooring_owner_id_fkey;",
      "ALTER TABLE mooring ADD FOREIGN KEY (owner_id) REFERENCES owner (owner_id) ON DELETE CASCADE;",
      [
        "the foreign key (owner_id) to owner (owner_id) of `public.mooring` is gone",
        "the foreign key (owner_id) to owner (owner_id) ON DELETE CASCADE of `public.mooring` stays",
      ],
    ],
    [
      "rows",
      "DELETE FROM mooring WHERE fee = 0;",
      "SELECT 1;",
      ["the rows of `public.mooring` that it deletes stay deleted"],
    ],
    [
      "values, in a block",
      "DO $$ BEGIN UPDATE mooring SET fee = 0 WHERE mooring_id = 3; END $$;",
      "SELECT 1;",
      ["`fee` of `public.mooring` keeps its new values"],
    ],
    [
      "rows of a table made again",
      "DROP TABLE mooring;",
      "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner, fee numeric(10,2) NOT NULL);",
      ["`public.mooring` comes back without its rows"],
    ],
    ["an empty script", "CREATE TABLE crane (crane_id int);", "-- nothing\n", ["table `public.crane` stays"]],
  ])("%s", (_, change, undo, gaps) => {
    expect(judged(change, undo).gap).toEqual(gaps);
  });
});

test("one that brings all structure back makes what is about structure a note, and never what is about rows", () => {
  const drop = "ALTER TABLE mooring DROP CONSTRAINT mooring_owner_id_fkey;";
  const add = "ALTER TABLE mooring ADD FOREIGN KEY (owner_id) REFERENCES owner (owner_id);";
  const guard = (undo: string) => judged(drop, undo).forward.findings.find(({ hazard }) => hazard === "guard-left-off");
  expect(guard("SELECT 1;")?.weight).toBe("ask");
  expect(guard(add)).toMatchObject({
    weight: "note",
    because: expect.arrayContaining(["`3.undo.sql` brings all structure back"]),
  });
  const lossy = judged(
    "ALTER TABLE owner DROP COLUMN phone;",
    "ALTER TABLE owner ADD COLUMN phone varchar(20);",
  ).forward;
  expect(lossy.findings.find(({ hazard }) => hazard === "lossy-structure")?.weight).toBe("ask");
});

test("one that takes more than the other brought is told so", () => {
  const { back } = judged("INSERT INTO owner VALUES (91, 'Ada Storm', NULL);", "DELETE FROM owner;");
  expect(back.findings.map(({ hazard, weight }) => `${hazard} ${weight}`)).toContain("every-row stop");
});

test("it does not run: the next script finds what the one that is taken back has made", () => {
  const dialect = "postgresql";
  const reviews = reviewChangeSet(
    [
      {
        text: "CREATE TABLE crane (crane_id int PRIMARY KEY);",
        dialect,
        path: "1.sql",
        undo: { text: "DROP TABLE crane;", path: "1.undo.sql" },
      },
      { text: "UPDATE crane SET reach = 3 WHERE crane_id = 1;", dialect, path: "2.sql" },
    ],
    { catalog: catalogFromDdl(DDL, { dialect }) },
  );
  expect(reviews.map(({ path, verdict }) => `${path} ${verdict}`)).toEqual([
    "1.sql clear",
    "1.undo.sql clear",
    "2.sql stop",
  ]);
  expect(reviews[2].findings[0].message).toContain("reach");
});

test("what has run already gives the catalog, and none of it is the change set's own", () => {
  const dialect = "postgresql";
  const old = {
    text: "CREATE TABLE crane (crane_id int PRIMARY KEY, reach int);",
    path: "1.sql",
    dialect,
    ran: true,
  } as const;
  const [review, ...more] = reviewChangeSet([
    old,
    { text: "DELETE FROM crane; UPDATE crane SET rech = 1 WHERE crane_id = 2;", path: "2.sql", dialect },
  ]);
  expect(more).toEqual([]);
  expect(review.findings.map(({ hazard, weight }) => `${hazard} ${weight}`)).toEqual([
    "every-row stop",
    "unknown-name stop",
  ]);
});

describe("the language of scripts that stand together", () => {
  const of = (scripts: [path: string, text: string][]) =>
    reviewChangeSet(scripts.map(([path, text]) => ({ path, text }))).map(({ dialect, dialectReason }) => [
      dialect,
      dialectReason,
    ]);
  const plain = "UPDATE berth SET depth_m = 3 WHERE berth_id = 1;";

  test("is what most of a folder show, where a script shows nothing itself", () => {
    expect(
      of([
        [
          "db/1.sql",
          "CREATE TABLE berth (berth_id int AUTO_INCREMENT PRIMARY KEY) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;",
        ],
        ["db/2.sql", plain],
        ["db/3.sql", "ALTER TABLE berth MODIFY depth_m int UNSIGNED;"],
        ["other/1.sql", plain],
      ]),
    ).toEqual([
      ["mysql", expect.stringContaining("on line 1")],
      ["mysql", "the scripts beside it look like MySQL"],
      ["mysql", expect.stringContaining("on line 1")],
      ["postgresql", ""],
    ]);
  });

  test.each([
    ["install/mysql/1.sql", "mysql"],
    ["rates-pgsql.sql", "postgresql"],
    ["rates.oracle12c.sql", "plsql"],
    ["sqlserver/up/1.sql", "tsql"],
    ["mysql-to-sqlite/1.sql", "postgresql"],
    ["access_rights/1.sql", "postgresql"],
  ])("is what the path %s names: %s", (path, dialect) => {
    expect(of([[path, plain]])[0][0]).toBe(dialect);
  });

  test("a path says nothing against what cannot be read so, nor against the script from far away", () => {
    const procedure = "CREATE OR REPLACE PROCEDURE tidy IS BEGIN DELETE FROM berth WHERE code IS NULL; END;\n/";
    expect(of([["mysql/1.sql", procedure]])[0][0]).toBe("plsql");
    expect(of([["mysql-tools/db/1.sql", "ALTER TABLE berth ADD seen timestamptz;"]])[0][0]).toBe("postgresql");
  });

  test("each language has a database of its own", () => {
    const reviews = reviewChangeSet([
      { path: "1.mysql.sql", text: "CREATE TABLE crane (crane_id int PRIMARY KEY);" },
      { path: "1.pgsql.sql", text: "CREATE TABLE crane (crane_id int PRIMARY KEY, name text);" },
      { path: "2.mysql.sql", text: "ALTER TABLE crane ADD name varchar(20);" },
      { path: "2.pgsql.sql", text: "ALTER TABLE crane ADD name text;" },
    ]);
    expect(reviews.map(({ findings }) => findings.map(({ hazard }) => hazard))).toEqual([
      [],
      [],
      [],
      ["already-there"],
    ]);
  });
});

test("a whole schema beside the scripts that lead to it is a beginning of its own, and goes on in those after it", () => {
  const tables = "CREATE TABLE crane (crane_id int PRIMARY KEY);\nCREATE TABLE rope (rope_id int PRIMARY KEY);\n";
  const of = (...texts: string[]) =>
    reviewChangeSet(texts.map((text, i) => ({ text, path: `${i}.sql`, dialect: "postgresql" as const }))).map(
      ({ findings, unchecked }) => [
        ...findings.map(({ hazard }) => hazard),
        ...unchecked.map(({ missing }) => missing),
      ],
    );
  const anew = expect.stringContaining("it makes again what scripts before it have made");
  const load = "ALTER TABLE crane ADD COLUMN load int;";
  expect(of(tables, load, `${tables}CREATE TABLE hook (hook_id int);`, load, load)).toEqual([
    [],
    [],
    [anew],
    [],
    ["already-there"],
  ]);
  // After a whole schema the first of them begins anew, and the others go on from it.
  const hook = "CREATE TABLE hook (hook_id int PRIMARY KEY);";
  expect(of(`${tables}${hook}`, hook, "ALTER TABLE hook ADD COLUMN load int;", hook)).toEqual([
    [],
    [anew],
    [],
    ["already-there"],
  ]);
  // One table that is made twice is a mistake.
  expect(of(tables, "CREATE TABLE crane (crane_id int PRIMARY KEY);")[1]).toEqual(["already-there"]);
});

describe("a script that holds both directions", () => {
  const of = (...texts: string[]) =>
    reviewChangeSet(
      texts.map((text, i) => ({ text, path: `${i}.sql` })),
      { catalog: catalogFromDdl(DDL, { dialect: "postgresql" }) },
    ).map(({ path, findings }) => [path, ...findings.map(({ hazard, line }) => `${hazard} ${line}`)]);
  const up = "ALTER TABLE owner ADD COLUMN mail text;\nUPDATE owner SET mail = 'x' WHERE owner_id = 1;\n";

  test.each([
    ["-- up\n", "-- down\n"],
    ["-- +harbour Up\n", "-- +harbour Down\n"],
    ["-- changes:up\n", "-- changes:down transaction:false\n"],
    ["-- Up Migration\n", "-- Down Migration\n"],
  ])("%j and %j: the second part takes the first back, at its own lines", (one, other) => {
    const next = "UPDATE owner SET mail = 'y' WHERE owner_id = 2;";
    expect(of(`${one}${up}${other}ALTER TABLE owner DROP COLUMN mail;\n`, next)).toEqual([
      ["0.sql"],
      ["0.sql"],
      // It finds the column, and would not if both parts had run.
      ["1.sql"],
    ]);
    expect(of(`${one}${up}${other}ALTER TABLE owner DROP COLUMN phone;\n`)[1]).toEqual(["0.sql", "undo-gap 5"]);
  });

  test("its two parts are told apart in the reports", () => {
    const reviews = reviewChangeSet([{ path: "0.sql", text: `-- up\n${up}-- down\nSELECT 1;` }]);
    expect(reviews.map(({ undoes }) => undoes)).toEqual([null, "0.sql"]);
    for (const format of ["text", "markdown", "html", "junit"] as const)
      expect(report(reviews, format)).toMatch(/0\.sql \(undo\)/);
    expect(JSON.parse(report(reviews, "json")).scripts.map(({ undoes }: { undoes?: string }) => undoes)).toEqual([
      undefined,
      "0.sql",
    ]);
  });

  test.each([
    ["only one of them", `-- up\n${up}`],
    ["prose", `-- up to here it is safe to run twice\n${up}-- go down to the end and look\nSELECT 1;`],
    ["the other way round", `-- down\n${up}-- up\nSELECT 1;`],
    ["in a string", `-- up\nUPDATE owner SET name = '\n-- down\n' WHERE owner_id = 1;`],
    ["SQL in a comment", `-- up\n${up}--rollback ALTER TABLE owner DROP COLUMN mail;`],
  ])("not: %s", (_, text) => {
    expect(of(text)).toHaveLength(1);
  });
});
