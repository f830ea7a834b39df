import { Chance } from "./generated-walks.ts";

// Statements of the dialects that have no engine here, put together from pieces of their manuals: what each is, what it writes and
// what it reads follows from the pieces. Half a thousand for each dialect.

export type Elsewhere = "tsql" | "plsql" | "jet";

export interface TableEntry {
  sql: string;
  kind: string;
  /** The table that it writes; null: none. */
  target: string | null;
  /** The columns that it gives values, in lower case; null: whole rows. */
  columns: readonly string[] | null;
  /** Every table that it names, in lower case. */
  tables: readonly string[];
}

/** Tables and their columns, as every dialect here takes them. */
export const DDL: Record<Elsewhere, string> = {
  tsql: `CREATE TABLE dbo.berth (berth_id int NOT NULL PRIMARY KEY, code varchar(10), depth int, kept bit);
CREATE TABLE dbo.vessel (vessel_id int NOT NULL PRIMARY KEY, berth_id int, sign varchar(10), depth int);`,
  plsql: `CREATE TABLE berth (berth_id number NOT NULL PRIMARY KEY, code varchar2(10), depth number, kept number);
CREATE TABLE vessel (vessel_id number NOT NULL PRIMARY KEY, berth_id number, sign varchar2(10), depth number);`,
  jet: `CREATE TABLE berth (berth_id LONG NOT NULL PRIMARY KEY, code TEXT(10), depth LONG, kept YESNO);
CREATE TABLE vessel (vessel_id LONG NOT NULL PRIMARY KEY, berth_id LONG, sign TEXT(10), depth LONG);`,
};

/** A piece of a statement, with the columns that it assigns and the tables that it reads. */
interface Piece {
  text: string;
  columns?: readonly string[];
  reads?: readonly string[];
}

interface Pieces {
  names: readonly string[];
  assigns: readonly Piece[];
  filters: readonly Piece[];
  values: readonly Piece[];
  queries: readonly Piece[];
  /** Whole statements; `#` stands for the name of the table. */
  updates: readonly Piece[];
  deletes: readonly Piece[];
  inserts: readonly Piece[];
  structures: readonly (Piece & { kind: string })[];
}

const SUBQUERY: Piece = { text: "WHERE EXISTS (SELECT 1 FROM vessel v WHERE v.berth_id = 3)", reads: ["vessel"] };

const PIECES: Record<Elsewhere, Pieces> = {
  tsql: {
    names: [
      "berth",
      "dbo.berth",
      "[dbo].[berth]",
      "[berth]",
      '"dbo"."berth"',
      "harbour.dbo.berth",
      "harbour..berth",
      "[harbour].[dbo].[berth]",
    ],
    assigns: [
      { text: "code = 'N'", columns: ["code"] },
      { text: "code = N'N', depth = depth + 1", columns: ["code", "depth"] },
      { text: "[code] = NULL", columns: ["code"] },
      { text: "depth += 1", columns: ["depth"] },
      { text: "depth = CASE WHEN depth > 3 THEN 3 ELSE depth END", columns: ["depth"] },
      { text: "code = UPPER(LTRIM(code)), kept = 1", columns: ["code", "kept"] },
      { text: "depth = (SELECT MAX(v.depth) FROM dbo.vessel AS v)", columns: ["depth"], reads: ["vessel"] },
      { text: "code = DEFAULT", columns: ["code"] },
      { text: "depth = TRY_CAST('3' AS int)", columns: ["depth"] },
      { text: "code = CONVERT(varchar(10), GETDATE(), 112)", columns: ["code"] },
      { text: "code = IIF(depth IS NULL, 'x', CONCAT('a', 'b'))", columns: ["code"] },
    ],
    filters: [
      { text: "" },
      { text: "WHERE berth_id = 3" },
      { text: "WHERE berth_id IN (1, 2, 3) AND code <> ''" },
      { text: "WHERE code LIKE 'A[0-9]%' ESCAPE '\\'" },
      { text: "WHERE NOT (depth BETWEEN 1 AND 3) OR code IS NULL" },
      {
        text: "WHERE berth_id = (SELECT TOP (1) v.berth_id FROM vessel v ORDER BY v.vessel_id DESC)",
        reads: ["vessel"],
      },
      SUBQUERY,
      { text: "WHERE berth_id = 3 OPTION (MAXDOP 1)" },
      { text: "WHERE depth > ALL (SELECT depth FROM dbo.vessel)", reads: ["vessel"] },
    ],
    updates: [
      { text: "UPDATE # SET {set} {where}" },
      { text: "UPDATE TOP (5) # SET {set} {where}" },
      { text: "UPDATE TOP (10) PERCENT # SET {set} {where}" },
      { text: "UPDATE # WITH (ROWLOCK, HOLDLOCK) SET {set} {where}" },
      { text: "UPDATE # SET {set} OUTPUT inserted.berth_id, deleted.code {where}" },
      { text: "WITH late AS (SELECT 1 AS n) UPDATE # SET {set} {where}" },
    ],
    deletes: [
      { text: "DELETE FROM # {where}" },
      { text: "DELETE # {where}" },
      { text: "DELETE TOP (5) FROM # {where}" },
      { text: "DELETE FROM # WITH (TABLOCK) {where}" },
      { text: "DELETE FROM # OUTPUT deleted.* {where}" },
      { text: "DELETE b FROM # AS b INNER JOIN dbo.vessel v ON v.berth_id = b.berth_id", reads: ["vessel"] },
      {
        text: "DELETE FROM b FROM # b LEFT OUTER JOIN vessel AS v ON v.berth_id = b.berth_id WHERE v.vessel_id IS NULL",
        reads: ["vessel"],
      },
      {
        text: "DELETE b FROM # b CROSS APPLY (SELECT TOP (1) v.sign FROM vessel v WHERE v.berth_id = b.berth_id ORDER BY v.sign) x WHERE x.sign = 'a'",
        reads: ["vessel"],
      },
    ],
    values: [
      { text: "(berth_id, code) VALUES (7, 'S')", columns: ["berth_id", "code"] },
      { text: "(berth_id, code, depth) VALUES (7, 'S', 1), (8, 'T', NULL)", columns: ["berth_id", "code", "depth"] },
      { text: "(berth_id) OUTPUT inserted.berth_id VALUES (7)", columns: ["berth_id"] },
    ],
    queries: [
      {
        text: "(berth_id, code) SELECT vessel_id, sign FROM dbo.vessel WHERE depth > 3",
        columns: ["berth_id", "code"],
        reads: ["vessel"],
      },
      {
        text: "(berth_id) SELECT TOP (3) vessel_id FROM vessel WITH (NOLOCK) ORDER BY sign",
        columns: ["berth_id"],
        reads: ["vessel"],
      },
      {
        text: "(berth_id, depth) SELECT berth_id, COUNT(*) FROM vessel GROUP BY berth_id HAVING COUNT(*) > 1",
        columns: ["berth_id", "depth"],
        reads: ["vessel"],
      },
      {
        text: "(berth_id) SELECT vessel_id FROM vessel EXCEPT SELECT berth_id FROM vessel",
        columns: ["berth_id"],
        reads: ["vessel"],
      },
    ],
    inserts: [
      { text: "INSERT INTO # {rows}" },
      { text: "INSERT # {rows}" },
      { text: "INSERT INTO # WITH (TABLOCK) {rows}" },
    ],
    structures: [
      { kind: "alter-table", text: "ALTER TABLE # ADD width int NULL" },
      {
        kind: "alter-table",
        text: "ALTER TABLE # ADD width int NOT NULL CONSTRAINT width_zero DEFAULT (0), noted date",
      },
      { kind: "alter-table", text: "ALTER TABLE # ALTER COLUMN code nvarchar(20) NOT NULL" },
      { kind: "alter-table", text: "ALTER TABLE # DROP COLUMN depth" },
      { kind: "alter-table", text: "ALTER TABLE # WITH CHECK ADD CONSTRAINT deep CHECK (depth > 0)" },
      { kind: "alter-table", text: "ALTER TABLE # NOCHECK CONSTRAINT ALL" },
      {
        kind: "create-index",
        text: "CREATE UNIQUE NONCLUSTERED INDEX berth_code ON # (code ASC) INCLUDE (depth) WHERE code IS NOT NULL",
      },
      { kind: "truncate", text: "TRUNCATE TABLE #" },
      { kind: "drop", text: "DROP TABLE IF EXISTS #" },
      {
        kind: "select",
        text: "SELECT TOP (10) * FROM # ORDER BY berth_id OFFSET 0 ROWS FETCH NEXT 5 ROWS ONLY".replace(
          "TOP (10) ",
          "",
        ),
      },
    ],
  },
  plsql: {
    names: ["berth", "BERTH", "harbour.berth", '"BERTH"', 'harbour."BERTH"'],
    assigns: [
      { text: "code = 'N'", columns: ["code"] },
      { text: "code = 'N', depth = NVL(depth, 0) + 1", columns: ["code", "depth"] },
      { text: "code = NULL", columns: ["code"] },
      { text: "depth = DECODE(code, 'a', 1, 2)", columns: ["depth"] },
      {
        text: "(code, depth) = (SELECT v.sign, v.depth FROM vessel v WHERE v.vessel_id = 3)",
        columns: ["code", "depth"],
        reads: ["vessel"],
      },
      { text: "depth = (SELECT MAX(v.depth) FROM vessel v)", columns: ["depth"], reads: ["vessel"] },
      { text: "code = TO_CHAR(SYSDATE, 'YYYYMMDD'), kept = 1", columns: ["code", "kept"] },
      { text: "code = DEFAULT", columns: ["code"] },
      { text: "code = q'[it's]'", columns: ["code"] },
      { text: "depth = CASE code WHEN 'a' THEN 1 ELSE depth END", columns: ["depth"] },
      { text: "code = SUBSTR(code, 1, 3) || 'x'", columns: ["code"] },
    ],
    filters: [
      { text: "" },
      { text: "WHERE berth_id = 3" },
      { text: "WHERE berth_id IN (1, 2, 3) AND code != 'x'" },
      { text: "WHERE ROWNUM <= 5" },
      { text: "WHERE code LIKE 'a!_%' ESCAPE '!'" },
      { text: "WHERE (berth_id, code) IN (SELECT v.berth_id, v.sign FROM vessel v)", reads: ["vessel"] },
      SUBQUERY,
      { text: "WHERE REGEXP_LIKE(code, '^a')" },
      { text: "WHERE depth BETWEEN 1 AND 3 OR NOT code IS NULL" },
      { text: "WHERE berth_id = 3 RETURNING code INTO :old_code" },
    ],
    updates: [
      { text: "UPDATE # SET {set} {where}" },
      { text: "UPDATE # b SET {set} {where}" },
      { text: "UPDATE /*+ PARALLEL(b 4) */ # b SET {set} {where}" },
      { text: "UPDATE ONLY (#) SET {set} {where}" },
    ],
    deletes: [
      { text: "DELETE FROM # {where}" },
      { text: "DELETE # {where}" },
      { text: "DELETE FROM # b {where}" },
      { text: "DELETE /*+ FULL(b) */ FROM # b {where}" },
      {
        text: "DELETE # b WHERE NOT EXISTS (SELECT NULL FROM vessel v WHERE v.berth_id = b.berth_id)",
        reads: ["vessel"],
      },
    ],
    values: [
      { text: "(berth_id, code) VALUES (7, 'S')", columns: ["berth_id", "code"] },
      { text: "(berth_id, code, depth) VALUES (berth_seq.NEXTVAL, 'S', NULL)", columns: ["berth_id", "code", "depth"] },
      { text: "(berth_id) VALUES ((SELECT MAX(v.vessel_id) FROM vessel v))", columns: ["berth_id"], reads: ["vessel"] },
    ],
    queries: [
      {
        text: "(berth_id, code) SELECT vessel_id, sign FROM vessel WHERE depth > 3",
        columns: ["berth_id", "code"],
        reads: ["vessel"],
      },
      {
        text: "(berth_id) SELECT vessel_id FROM vessel MINUS SELECT berth_id FROM vessel",
        columns: ["berth_id"],
        reads: ["vessel"],
      },
      {
        text: "(berth_id, depth) SELECT berth_id, COUNT(*) FROM vessel GROUP BY berth_id",
        columns: ["berth_id", "depth"],
        reads: ["vessel"],
      },
      {
        text: "(berth_id) SELECT v.vessel_id FROM vessel v, dual d WHERE v.berth_id = 3",
        columns: ["berth_id"],
        reads: ["vessel", "dual"],
      },
      {
        text: "(berth_id) WITH w AS (SELECT vessel_id AS n FROM vessel) SELECT n FROM w",
        columns: ["berth_id"],
        reads: ["vessel", "w"],
      },
    ],
    inserts: [{ text: "INSERT INTO # {rows}" }, { text: "INSERT /*+ APPEND */ INTO # {rows}" }],
    structures: [
      { kind: "alter-table", text: "ALTER TABLE # ADD width NUMBER(10,2)" },
      { kind: "alter-table", text: "ALTER TABLE # ADD (width NUMBER DEFAULT 0 NOT NULL, noted DATE)" },
      { kind: "alter-table", text: "ALTER TABLE # MODIFY (code VARCHAR2(20 CHAR) NOT NULL)" },
      { kind: "alter-table", text: "ALTER TABLE # DROP COLUMN depth" },
      { kind: "alter-table", text: "ALTER TABLE # DROP (depth, kept) CASCADE CONSTRAINTS" },
      { kind: "alter-table", text: "ALTER TABLE # RENAME COLUMN code TO sign" },
      { kind: "alter-table", text: "ALTER TABLE # ADD CONSTRAINT deep CHECK (depth > 0) ENABLE NOVALIDATE" },
      { kind: "alter-table", text: "ALTER TABLE # SET UNUSED (kept)" },
      { kind: "create-index", text: "CREATE UNIQUE INDEX berth_code ON # (UPPER(code)) TABLESPACE users ONLINE" },
      { kind: "truncate", text: "TRUNCATE TABLE # REUSE STORAGE" },
      { kind: "drop", text: "DROP TABLE # CASCADE CONSTRAINTS PURGE" },
      { kind: "select", text: "SELECT b.code FROM # b WHERE b.berth_id = 3 FOR UPDATE OF b.code NOWAIT" },
    ],
  },
  jet: {
    names: ["berth", "[berth]", "Berth", "[Berth]"],
    assigns: [
      { text: "code = 'N'", columns: ["code"] },
      { text: 'code = "N", depth = depth + 1', columns: ["code", "depth"] },
      { text: "[code] = Null", columns: ["code"] },
      { text: "depth = IIf([depth] > 3, 3, [depth])", columns: ["depth"] },
      { text: "code = UCase(Trim([code])), kept = True", columns: ["code", "kept"] },
      { text: "code = Left([code], 3) & 'x'", columns: ["code"] },
      { text: "depth = Nz([depth], 0)", columns: ["depth"] },
      { text: "code = Format(Date(), 'yyyymmdd')", columns: ["code"] },
      { text: "depth = DMax('depth', 'vessel')", columns: ["depth"] },
    ],
    filters: [
      { text: "" },
      { text: "WHERE berth_id = 3" },
      { text: "WHERE berth_id In (1, 2, 3) AND code <> ''" },
      { text: "WHERE code Like 'A*'" },
      { text: "WHERE kept = True AND depth Between 1 And 3" },
      { text: "WHERE Not (code Is Null)" },
      { text: "WHERE berth_id In (SELECT v.berth_id FROM vessel AS v)", reads: ["vessel"] },
      { text: "WHERE Exists (SELECT v.vessel_id FROM vessel AS v WHERE v.berth_id = 3)", reads: ["vessel"] },
      { text: "WHERE code Like 'A#[!0-9]?*'" },
    ],
    updates: [
      { text: "UPDATE # SET {set} {where}" },
      { text: "UPDATE DISTINCTROW # SET {set} {where}" },
      { text: "UPDATE # AS b SET {set} {where}" },
    ],
    deletes: [
      { text: "DELETE * FROM # {where}" },
      { text: "DELETE FROM # {where}" },
      { text: "DELETE DISTINCTROW berth.* FROM # {where}" },
      { text: "DELETE berth.* FROM # {where}" },
    ],
    values: [
      { text: "(berth_id, code) VALUES (7, 'S')", columns: ["berth_id", "code"] },
      { text: '(berth_id, code, depth) VALUES (7, "S", Null)', columns: ["berth_id", "code", "depth"] },
      { text: "(berth_id, kept) VALUES (7, True)", columns: ["berth_id", "kept"] },
    ],
    queries: [
      {
        text: "(berth_id, code) SELECT vessel_id, sign FROM vessel WHERE depth > 3",
        columns: ["berth_id", "code"],
        reads: ["vessel"],
      },
      {
        text: "(berth_id) SELECT TOP 3 vessel_id FROM vessel ORDER BY sign DESC",
        columns: ["berth_id"],
        reads: ["vessel"],
      },
      {
        text: "(berth_id, depth) SELECT berth_id, Count(*) AS n FROM vessel GROUP BY berth_id HAVING Count(*) > 1",
        columns: ["berth_id", "depth"],
        reads: ["vessel"],
      },
      { text: "(berth_id) SELECT DISTINCT vessel_id FROM vessel", columns: ["berth_id"], reads: ["vessel"] },
    ],
    inserts: [{ text: "INSERT INTO # {rows}" }],
    structures: [
      { kind: "alter-table", text: "ALTER TABLE # ADD COLUMN width LONG" },
      { kind: "alter-table", text: "ALTER TABLE # ADD COLUMN noted DATETIME NOT NULL" },
      { kind: "alter-table", text: "ALTER TABLE # ALTER COLUMN code TEXT(20)" },
      { kind: "alter-table", text: "ALTER TABLE # DROP COLUMN depth" },
      { kind: "alter-table", text: "ALTER TABLE # ADD CONSTRAINT deep UNIQUE (depth)" },
      { kind: "create-index", text: "CREATE UNIQUE INDEX berth_code ON # (code DESC) WITH IGNORE NULL" },
      { kind: "drop", text: "DROP TABLE #" },
      { kind: "select", text: "SELECT TOP 5 PERCENT b.* FROM # AS b WHERE b.berth_id = 3 ORDER BY b.code" },
      { kind: "select", text: "PARAMETERS n LONG; SELECT b.code FROM # AS b WHERE b.berth_id = n" },
    ],
  },
};

/** The table of a dialect: every structure, and combinations of the others, each once. */
export function statementTable(dialect: Elsewhere, count: number): TableEntry[] {
  const chance = new Chance(17);
  const { names, assigns, filters, values, queries, updates, deletes, inserts, structures } = PIECES[dialect];
  const found = new Map<string, TableEntry>();
  const put = (
    kind: string,
    form: Piece,
    columns: readonly string[] | null,
    parts: Record<string, Piece> = {},
  ): void => {
    const name = chance.of(names);
    const sql = form.text
      .replace(/ \{(\w+)\}/g, (_, part: string) => (parts[part]?.text ? ` ${parts[part].text}` : ""))
      .replace("#", () => name);
    const reads = [form, ...Object.values(parts)].flatMap((one) => one.reads ?? []);
    const target = kind === "select" ? null : "berth";
    found.set(sql, { sql, kind, target, columns, tables: [...new Set(["berth", ...reads])].sort() });
  };
  for (const form of structures) for (let i = 0; i < names.length; i++) put(form.kind, form, null);
  while (found.size < count) {
    switch (chance.below(3)) {
      case 0: {
        const assign = chance.of(assigns);
        put("update", chance.of(updates), assign.columns ?? [], { set: assign, where: chance.of(filters) });
        break;
      }
      case 1: {
        const form = chance.of(deletes);
        put("delete", form, null, form.text.includes("{where}") ? { where: chance.of(filters) } : {});
        break;
      }
      default: {
        const body = chance.of([...values, ...queries]);
        put("insert", chance.of(inserts), body.columns ?? [], { rows: body });
      }
    }
  }
  return [...found.values()];
}

/** What other engines take and this one refuses. */
export const REFUSED: Record<Elsewhere, readonly string[]> = {
  tsql: [
    "UPDATE berth b SET code = 'N' WHERE b.berth_id = 3",
    "UPDATE berth AS b SET code = 'N'",
    "DELETE FROM berth b WHERE b.berth_id = 3",
    "DELETE * FROM berth WHERE berth_id = 3",
    "DELETE FROM berth ORDER BY berth_id",
    "DELETE FROM berth LIMIT 3",
    "DELETE FROM berth USING vessel WHERE vessel.berth_id = berth.berth_id",
    "DELETE FROM berth WHERE berth_id = 3 RETURNING code",
    "INSERT INTO berth (berth_id) VALUES (3) ON CONFLICT DO NOTHING",
    "INSERT INTO berth (berth_id) VALUES (3) ON DUPLICATE KEY UPDATE code = 'N'",
    "INSERT IGNORE INTO berth (berth_id) VALUES (3)",
    "REPLACE INTO berth (berth_id) VALUES (3)",
    "SELECT TOP (5) DISTINCT code FROM berth",
    "SELECT code FROM berth LIMIT 3",
    "SELECT code FROM berth WHERE berth_id IN ()",
    "SELECT code FROM berth OFFSET 3 ROWS",
    "SELECT b.code FROM berth b JOIN vessel v USING (berth_id)",
    "SELECT b.code FROM berth b NATURAL JOIN vessel",
    "SELECT depth::varchar FROM berth",
    "SELECT code FROM berth WHERE kept",
    "TRUNCATE berth",
    "DROP TABLE berth CASCADE",
    "DROP INDEX berth_code",
    "ALTER TABLE berth ADD COLUMN width int",
    "ALTER TABLE berth MODIFY code varchar(20)",
    "ALTER TABLE berth RENAME TO pier",
    "CREATE OR REPLACE TABLE berth (berth_id int)",
    "CREATE TABLE IF NOT EXISTS pier (pier_id int)",
    "CREATE TABLE pier AS SELECT * FROM berth",
    "MERGE INTO berth AS b USING vessel AS v ON v.berth_id = b.berth_id WHEN NOT MATCHED THEN DELETE",
    "CALL close_berth(3)",
    "EXEC close_berth(3)",
  ],
  plsql: [
    "UPDATE berth AS b SET code = 'N'",
    "DELETE b FROM berth b WHERE b.berth_id = 3",
    "DELETE FROM berth AS b WHERE b.berth_id = 3",
    "DELETE FROM berth LIMIT 3",
    "DELETE FROM berth OUTPUT deleted.code",
    "DELETE TOP (5) FROM berth",
    "SELECT TOP 5 code FROM berth",
    "SELECT code FROM berth LIMIT 3",
    "SELECT b.code FROM berth AS b",
    "INSERT INTO berth DEFAULT VALUES",
    "INSERT IGNORE INTO berth (berth_id) VALUES (3)",
    "INSERT INTO berth (berth_id) VALUES (3) ON CONFLICT DO NOTHING",
    "MERGE berth b USING vessel v ON (v.berth_id = b.berth_id) WHEN MATCHED THEN UPDATE SET code = v.sign",
    "MERGE INTO berth b USING vessel v ON v.berth_id = b.berth_id WHEN MATCHED THEN UPDATE SET code = v.sign",
    "ALTER TABLE berth ADD COLUMN width NUMBER",
    "ALTER TABLE berth ALTER COLUMN code VARCHAR2(20)",
    "CREATE TABLE pier (pier_id NUMBER REFERENCES berth ON UPDATE CASCADE)",
    "CREATE TABLE pier (pier_id NUMBER, code VARCHAR2)",
    "BEGIN DROP TABLE pier; END;\n/",
    "DROP TABLE berth CASCADE",
    "TRUNCATE berth",
    "SELECT depth::varchar2 FROM berth",
    "SELECT code FROM berth WHERE berth_id IN ()",
    "UPDATE berth b JOIN vessel v ON v.berth_id = b.berth_id SET b.code = v.sign",
    "REPLACE INTO berth (berth_id) VALUES (3)",
  ],
  jet: [
    "TRUNCATE TABLE berth",
    "UPDATE berth SET code = CASE WHEN depth > 3 THEN 'D' ELSE 'S' END",
    "INSERT INTO berth (berth_id, code) VALUES (1, 'a'), (2, 'b')",
    "DELETE FROM berth LIMIT 3",
    "SELECT code FROM berth LIMIT 3",
    "UPDATE berth SET code = 'N' FROM vessel WHERE vessel.berth_id = berth.berth_id",
    "DELETE FROM berth WHERE berth_id = 3 RETURNING code",
    "MERGE INTO berth USING vessel ON vessel.berth_id = berth.berth_id WHEN MATCHED THEN DELETE",
    "WITH w AS (SELECT 1 AS n) SELECT n FROM w",
    "SELECT code FROM berth NATURAL JOIN vessel",
    "SELECT b.code FROM berth b FULL JOIN vessel v ON v.berth_id = b.berth_id",
    "SELECT CAST(depth AS int) FROM berth",
    "SELECT depth::int FROM berth",
    "INSERT INTO berth (berth_id) VALUES (3) ON CONFLICT DO NOTHING",
    "REPLACE INTO berth (berth_id) VALUES (3)",
    "CREATE TABLE IF NOT EXISTS pier (pier_id LONG)",
    "CREATE TABLE pier AS SELECT * FROM berth",
    "ALTER TABLE berth MODIFY code TEXT(20)",
    "ALTER TABLE berth RENAME TO pier",
    "DROP TABLE IF EXISTS berth",
  ],
};
