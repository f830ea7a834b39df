import { catalogFromDdl, type DialectId, rehearsalText, rehearse, review } from "cautela";
import { describe, expect, test } from "vitest";

// What cannot be put back is said before anything is run, and what cannot be written truthfully is not written.

const PG = `
CREATE TABLE rental (rental_id int PRIMARY KEY, monthly int, to_day date, note text);
CREATE TABLE loose (a int, b json);
CREATE FUNCTION tag(t text) RETURNS text LANGUAGE plpgsql AS $$ BEGIN INSERT INTO rental VALUES (1); RETURN t; END $$;
CREATE FUNCTION dark(n int) RETURNS void LANGUAGE plpgsql AS $$ BEGIN EXECUTE 'DELETE FROM ' || n; END $$;
CREATE FUNCTION keep() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF NEW.monthly > 9 THEN RETURN NULL; END IF; RETURN NEW; END $$;
CREATE TABLE kept (kept_id int PRIMARY KEY, monthly int);
CREATE TRIGGER keep BEFORE UPDATE ON kept FOR EACH ROW EXECUTE FUNCTION keep();
CREATE VIEW cheap AS SELECT rental_id, monthly FROM rental WHERE monthly < 9;
CREATE TABLE parts (id int PRIMARY KEY, n int) PARTITION BY RANGE (id);
CREATE TABLE parts_low PARTITION OF parts FOR VALUES FROM (0) TO (9);
`;
const TSQL = `
CREATE TABLE dbo.Orders (OrderId int IDENTITY PRIMARY KEY, Doc xml, Body text, Pic image, Amount money);
CREATE TABLE dbo.Line (OrderId int REFERENCES dbo.Orders (OrderId) ON DELETE CASCADE, No int, PRIMARY KEY (OrderId, No));
`;
const PLSQL =
  "CREATE TABLE paper (id number PRIMARY KEY, body long, n number);\nCREATE TABLE sheet (id number PRIMARY KEY, n number);";
const JET =
  "CREATE TABLE Files (FileId COUNTER PRIMARY KEY, Held ATTACHMENT, N LONG);\nCREATE TABLE Memos (MemoId LONG PRIMARY KEY, Body LONGTEXT);";
const SQLITE = "CREATE TABLE crate (crate_id integer PRIMARY KEY, n integer NOT NULL, tag text);";
const MYSQL = "CREATE TABLE crate (crate_id int PRIMARY KEY, n int, UNIQUE (n));";

/** A script, what is said of it, and what must not stand in its sheets. */
type Case = [title: string, dialect: DialectId, ddl: string, script: string, said: RegExp, absent?: RegExp];

const CASES: Case[] = [
  ["rows without a key", "postgresql", PG, "UPDATE loose SET a = 1 WHERE a = 2;", /have no key/, /SET a = b\.a/],
  [
    "rows that come without a key",
    "postgresql",
    PG,
    "INSERT INTO loose VALUES (1, '2');",
    /have no key/,
    /DELETE FROM loose/,
  ],
  [
    "what an unknown procedure does",
    "postgresql",
    PG,
    "CALL nightly(); DELETE FROM rental WHERE rental_id = 1;",
    /what nightly does is not followed: .*neither kept/,
  ],
  ["a procedure alone", "tsql", TSQL, "EXEC dbo.nightly", /what dbo\.nightly does is not followed/],
  [
    "a rename by procedure, to what a variable holds",
    "tsql",
    TSQL,
    "EXEC sp_rename 'dbo.Line', @name",
    /what sp_rename does/,
  ],
  ["a rename by procedure", "tsql", TSQL, "EXEC sp_rename 'dbo.Line', 'Row'", /^$/],
  ["SQL that is put together", "tsql", TSQL, "DECLARE @s nvarchar(99) = N'x'; SET @s += @t; EXEC (@s)", /put together/],
  ["a function that cannot be read", "postgresql", PG, "SELECT dark(3);", /what public\.dark does is not known/],
  [
    "a file that is run",
    "postgresql",
    PG,
    "\\i other.sql\nDELETE FROM rental WHERE rental_id = 1;",
    /what the file of \\i other\.sql does is not read/,
  ],
  [
    "a file that is run in Oracle's shell",
    "plsql",
    PLSQL,
    "@other.sql\nDELETE FROM sheet WHERE id = 1;",
    /@other\.sql does is not read/,
    /@other\.sql;/,
  ],
  [
    "rights",
    "postgresql",
    PG,
    "GRANT ALL ON rental TO bob; DELETE FROM rental WHERE rental_id = 1;",
    /rights are not put back/,
  ],
  [
    "a statement that cannot be read",
    "postgresql",
    PG,
    "DELETE FORM rental; DELETE FROM rental WHERE rental_id = 1;",
    /could not be read/,
  ],
  [
    "structure inside a block",
    "postgresql",
    PG,
    "DO $$ BEGIN ALTER TABLE rental RENAME TO let; END $$;",
    /besides rows is not undone/,
  ],
  ["a table that is moved", "postgresql", PG, "ALTER TABLE rental SET SCHEMA away;", /renames or moves/, /DROP TABLE/],
  [
    "a rename among other changes",
    "mysql",
    MYSQL,
    "ALTER TABLE crate RENAME TO box, ADD COLUMN x int;",
    /renames or moves/,
    /DROP TABLE/,
  ],
  [
    "a column that comes back last",
    "postgresql",
    PG,
    "ALTER TABLE rental DROP COLUMN monthly;",
    /comes back as the last column/,
  ],
  ["an index or right of a dropped table", "postgresql", PG, "DROP TABLE rental CASCADE;", /as the catalog knows it/],
  [
    "partitions of a dropped table",
    "postgresql",
    PG,
    "DROP TABLE parts;",
    /partitions or heirs/,
    /CREATE TABLE parts \(/,
  ],
  [
    "a copy that is kept elsewhere",
    "postgresql",
    PG,
    "-- cautela: backup nightly dump\nDELETE FROM rental;",
    /no copy is made, for nightly dump/,
    /CREATE TABLE rental_before/,
  ],
  [
    "a trigger that drops rows",
    "postgresql",
    PG,
    "UPDATE kept SET monthly = 10 WHERE kept_id = 1;",
    /may drop rows without a word/,
    /cautela_expected/,
  ],
  [
    "a function in SET that writes",
    "postgresql",
    PG,
    "UPDATE rental SET note = tag(note) WHERE rental_id = 3;",
    /may write, so the new values are not shown/,
    /new_note/,
  ],
  [
    "a filter that writes",
    "postgresql",
    PG,
    "DELETE FROM rental WHERE tag(note) = 'x';",
    /would call it beforehand/,
    /COUNT\(\*\) AS rows_touched/,
  ],
  ["chance", "postgresql", PG, "DELETE FROM rental WHERE random() < 0.5;", /the copy decides/],
  [
    "a limit without a key",
    "postgresql",
    PG,
    "DELETE FROM loose WHERE random() < 0.5;",
    /no change was written/,
    /DELETE FROM loose/,
  ],
  ["a placeholder", "postgresql", PG, "DELETE FROM rental WHERE rental_id = :id;", /placeholder/],
  [
    "MERGE",
    "postgresql",
    PG,
    "MERGE INTO rental r USING loose l ON l.a = r.rental_id WHEN MATCHED THEN UPDATE SET monthly = 1;",
    /which branch of MERGE/,
  ],
  ["a batch that runs again", "tsql", TSQL, "DELETE FROM dbo.Line WHERE No = 3\nGO 5\n", /runs 5 times/],
  ["LONG", "plsql", PLSQL, "DELETE FROM paper WHERE n = 2;", /is a LONG/, /CREATE TABLE PAPER_BEFORE/i],
  ["a column of several values", "jet", JET, "DELETE FROM Files WHERE N = 2;", /several values/, /INTO Files_before/i],
  ["no assertion", "jet", JET, "DELETE FROM Memos WHERE MemoId = 2;", /no assertion outside/],
  [
    "a constraint of SQLite",
    "sqlite",
    SQLITE,
    "ALTER TABLE crate DROP COLUMN tag; DROP TABLE crate;",
    /as the catalog knows it/,
  ],
  [
    "a key that changes by a subquery",
    "sqlite",
    SQLITE,
    "UPDATE crate SET crate_id = random() WHERE n = 1;",
    /cannot be traced back|no change was written|no restore/,
  ],
  [
    "a table that a later line drops",
    "sqlite",
    SQLITE,
    "UPDATE crate SET n = 1 WHERE crate_id = 1; DROP TABLE crate;",
    /not compared afterwards/,
    /Before and now/,
  ],
  [
    "an earlier line",
    "sqlite",
    SQLITE,
    "UPDATE crate SET n = 5 WHERE crate_id < 3; UPDATE crate SET tag = 'x' WHERE n = 5;",
    /^/,
    /^CREATE TABLE crate_before_1_2 AS\nSELECT crate\.\*\nFROM crate\nWHERE n = 5/m,
  ],
];

test.each(CASES)("%s (%s)", (_, dialect, ddl, script, said, absent) => {
  const catalog = catalogFromDdl(ddl, { dialect });
  expect(catalog.unread).toEqual([]);
  const rehearsal = rehearse(review(script, { dialect, catalog }), { date: "1" });
  expect(rehearsal.sheets.flatMap(({ reasons }) => reasons).join("\n")).toMatch(said);
  const written = rehearsalText({ ...rehearsal, sheets: rehearsal.sheets.map((sheet) => ({ ...sheet, reasons: [] })) });
  if (absent) expect(written).not.toMatch(absent);
});

describe("what a client program takes", () => {
  test.each<[string, DialectId, string, string, RegExp, RegExp]>([
    [
      "slashes run code once",
      "plsql",
      PLSQL,
      "DELETE FROM sheet WHERE n = 1\n/\nBEGIN DELETE FROM sheet WHERE n = 2; END;\n/\n",
      /END;\n\//,
      /\bGO\b|\/;|^\/\n\n?\/$/m,
    ],
    [
      "batches end with GO",
      "tsql",
      TSQL,
      "DELETE FROM dbo.Line WHERE No = 3\nGO\nDELETE FROM dbo.Line WHERE No = 4\n",
      /COMMIT TRANSACTION;\nGO\n/,
      /GO;/,
    ],
    [
      "no line of a shell has a semicolon",
      "plsql",
      PLSQL,
      "SET ECHO ON\nPROMPT go\nDELETE FROM sheet WHERE n = 1;",
      /^SET ECHO ON$/m,
      /SET ECHO ON;|PROMPT go;/,
    ],
    [
      "bodies have a delimiter of their own",
      "mysql",
      MYSQL,
      "DELIMITER //\nCREATE PROCEDURE p() BEGIN DELETE FROM crate; SELECT 1; END//\nDELIMITER ;\nDELETE FROM crate WHERE n = 1;",
      /DELIMITER \/\/\nCREATE PROCEDURE p/,
      /^\/\/;/m,
    ],
    [
      "names keep their spelling",
      "tsql",
      TSQL,
      "DELETE FROM dbo.Line WHERE No = 3",
      /dbo\.Line_before_1/,
      /dbo\.line\b(?!:)/,
    ],
    [
      "no DISTINCT over types that cannot be compared",
      "tsql",
      TSQL,
      "UPDATE o SET Amount = 1 FROM dbo.Orders o JOIN dbo.Line l ON l.OrderId = o.OrderId",
      /SELECT DISTINCT o\.OrderId/,
      /DISTINCT (?:t|o)\.\*/,
    ],
    [
      "no DISTINCT over long texts",
      "jet",
      JET,
      "UPDATE Memos INNER JOIN Files ON Files.FileId = Memos.MemoId SET Memos.Body = 'x'",
      /IN \(SELECT/,
      /DISTINCT (?:t|Memos)\.\*/,
    ],
  ])("%s (%s)", (_, dialect, ddl, script, holds, absent) => {
    const catalog = catalogFromDdl(ddl, { dialect });
    const written = rehearsalText(rehearse(review(script, { dialect, catalog }), { date: "1" }));
    expect(written).toMatch(holds);
    expect(written.replace(/^-- .*$/gm, "")).not.toMatch(absent);
  });
});
