import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { type DialectId, dialectIds, guessDialect, isDialectId, readScript, review } from "cautela";
import { ScriptReader } from "cautela/tools";
import fc from "fast-check";
import { describe, expect, test } from "vitest";

// Scripts as they really lie about: shells, separators, quotes, templates, halves.

/** What a script was read as: kinds with the repeats of a batch, and what stands in code that runs. */
function kinds(text: string, dialect: DialectId): string {
  return readScript(text, { dialect })
    .statements.map(({ tree, repeat }) => {
      const inside =
        tree.kind === "block" || tree.kind === "dynamic" || tree.kind === "create-routine" ? tree.body : null;
      const body = inside ? `(${inside.map((one) => one.kind).join(" ")})` : "";
      return `${tree.kind}${body}${repeat > 1 ? ` x${repeat}` : ""}`;
    })
    .join(", ");
}

describe("each shell's files", () => {
  test.each<[DialectId, string, string]>([
    ["mysql", "source other.sql\nDELETE FROM t;", "directive, delete"],
    ["mysql", "\\. other.sql\nDELETE FROM t\\G\nSELECT 1\\g", "directive, delete, select"],
    ["mysql", "system ls -l\n\\! ls\nDELETE FROM t;", "directive, directive, delete"],
    [
      "mysql",
      "DELIMITER //\nCREATE PROCEDURE p() BEGIN DELETE FROM t; END//\nDELIMITER ;\nDELETE FROM u;",
      "directive, create-routine(block), directive, delete",
    ],
    [
      "mysql",
      "DELIMITER ;;\nCREATE TRIGGER x BEFORE INSERT ON t FOR EACH ROW BEGIN SET NEW.a = 1; END;;\nDELIMITER ;\nSELECT 1;",
      "directive, create-routine(block), directive, select",
    ],
    ["mysql", "/*!40101 SET NAMES utf8 */;\nDELETE FROM t /*! WHERE a = 1 */;", "opaque, delete"],
    ["mysql", "CREATE TABLE t (a INT) TYPE=MyISAM;", "create-table"],
    ["mysql", "PREPARE s FROM 'DELETE FROM t';", "dynamic(delete)"],
    [
      "mysql",
      "SET @q = CONCAT('DELETE ', 'FROM u');\nPREPARE s FROM @q;\nEXECUTE s;",
      "assign, dynamic(delete), opaque",
    ],
    ["mysql", "SET @q = 'DELETE FROM u', @q = @other;\nPREPARE s FROM @q;\nEXECUTE s;", "assign, dynamic, dynamic"],
    ["mysql", "INSERT INTO t VALUES ('it\\'s; x'), (\"y;\"); # end; of it\nDELETE FROM u -- x\n;", "insert, delete"],
    ["mariadb", "BEGIN NOT ATOMIC DELETE FROM t; END;\nSELECT 1;", "block(delete), select"],
    [
      "postgresql",
      "\\set ON_ERROR_STOP on\n\\echo bye \\quit\n\\if :y\nDELETE FROM t;\n\\endif",
      "directive, directive, directive, directive, delete, directive",
    ],
    ["postgresql", "\\copy t (a) from 'x.csv' csv\nSELECT 1 \\gset\nSELECT :x, :'y', :\"z\";", "copy, select, select"],
    ["postgresql", "COPY t (a, b) FROM stdin;\n1\tx;y\n2\t'z\n\\.\nDELETE FROM t;", "copy, delete"],
    [
      "postgresql",
      // biome-ignore lint/suspicious/noTemplateCurlyInString: placeholders of scripts, not of this file
      "DELETE FROM ${schema}.t WHERE id = {{ id }};\nDELETE FROM %s WHERE a = %(name)s;\nUPDATE @extschema@.t SET a = 1;\nUPDATE __PREFIX__t SET a = 1 WHERE b = ?;",
      "delete, delete, update, update",
    ],
    ["postgresql", "CREATE TABLE t (a int) WITH OIDS;\nSELECT a.b WHERE a.b = 1", "create-table, select"],
    [
      "postgresql",
      "CREATE FUNCTION f() RETURNS int AS 'BEGIN DELETE FROM t; RETURN 1; END;' LANGUAGE plpgsql;",
      "create-routine(block)",
    ],
    [
      "postgresql",
      "CREATE FUNCTION f() RETURNS void LANGUAGE sql BEGIN ATOMIC DELETE FROM t; SELECT 1; END;\nSELECT 2;",
      "create-routine(block), select",
    ],
    [
      "postgresql",
      "DO $x$ BEGIN EXECUTE 'DELETE FROM t'; END $x$;\nPREPARE p AS DELETE FROM t;\nEXECUTE p;",
      "block(block), dynamic(delete), opaque",
    ],
    ["postgresql", "begin; delete from t\r\nwhere a = 1;\r\n;;\r\ncommit", "transaction, delete, transaction"],
    ["sqlite", ".mode csv\n.import x.csv t\nDELETE FROM t;\n.quit", "directive, directive, delete, directive"],
    [
      "sqlite",
      "CREATE TRIGGER x AFTER INSERT ON t BEGIN DELETE FROM u; END;;\nSELECT 1",
      "create-routine(block), select",
    ],
    ["tsql", "DELETE FROM t\nGO 5\nDELETE FROM u\nGO\n", "delete x5, delete"],
    [
      "tsql",
      "DECLARE @x int = 1\nUPDATE t SET a = @x WHERE b = 1\nDELETE t WHERE c = 2\nSELECT * FROM t",
      "declare, update, delete, select",
    ],
    [
      "tsql",
      ":setvar db x\n:r other.sql\nUSE $(db)\nGO\ndbo.clear 3\nGO",
      "directive, directive, setting, call-statement",
    ],
    [
      "tsql",
      "DECLARE @s nvarchar(max) = N'DELETE FROM v'; EXEC(@s); EXEC sp_executesql N'DELETE FROM u'",
      "declare, dynamic(delete), dynamic(delete)",
    ],
    [
      "tsql",
      "DECLARE @s nvarchar(max); IF 1 = 1 SET @s = N'DELETE FROM v' ELSE SET @s = N'SELECT 1'; EXEC(@s)",
      "declare, if, dynamic(if)",
    ],
    [
      "plsql",
      "SET DEFINE OFF\nPROMPT working; still\nDELETE FROM t WHERE a = '&x'\n/\n@other.sql\n@@more\nEXIT",
      "directive, directive, delete, directive, directive, directive",
    ],
    [
      "plsql",
      "WHENEVER SQLERROR EXIT FAILURE\nREM a; b\nEXEC p(1)\nVARIABLE x NUMBER\nUPDATE t SET a = q'[it's]';",
      "directive, directive, call-statement, directive, update",
    ],
    ["plsql", "BEGIN\n DELETE FROM t;\nEND;\n/\nDELETE FROM u;", "block(delete), directive, delete"],
    [
      "jet",
      "PARAMETERS [which] Long;\nDELETE FROM t WHERE a = [which];\nUPDATE t SET b = #1/2/2024#",
      "delete, update",
    ],
  ])("%s: %j", (dialect, text, expected) => {
    expect(kinds(text, dialect)).toBe(expected);
  });

  test("a line of 100,000 characters and Latin-1 letters are no trouble", () => {
    const text = `DELETE FROM t WHERE note = '${"\u00e4\u00f6".repeat(50_000)}'; SELECT 1`;
    expect(kinds(text, "postgresql")).toBe("delete, select");
  });
});

describe("the dialect, when nobody names it", () => {
  test.each<[DialectId, string]>([
    ["tsql", "DELETE TOP (5) FROM dbo.berth\nGO"],
    ["tsql", "DECLARE @n int = 3\nUPDATE berth SET depth_m = @n WHERE berth_id = 1"],
    ["mysql", "UPDATE `berth` SET depth_m = 3 WHERE berth_id = 1;"],
    ["mariadb", "-- MariaDB dump\nINSERT INTO `berth` VALUES (1);"],
    ["plsql", "UPDATE berth SET seen = SYSDATE WHERE berth_id = 1\n/\n"],
    ["sqlite", "PRAGMA foreign_keys = ON;\nDELETE FROM berth WHERE berth_id = 1;"],
    ["jet", "DELETE * FROM berth WHERE seen < #12/31/2024#;"],
    ["postgresql", "DELETE FROM berth USING pier WHERE berth.note ILIKE 'x%';"],
    ["postgresql", "DELETE FROM berth;"],
  ])("%s: %j", (dialect, text) => {
    const guess = guessDialect(text);
    expect(guess.dialect).toBe(dialect);
    expect(review(text).dialect).toBe(dialect);
  });

  test("a sign inside a string or a comment is none", () => {
    expect(
      guessDialect("UPDATE t SET a = 'GO nvarchar `x` #1/1/2024#' /* dbo */ -- SYSDATE\n WHERE b = 1;").reason,
    ).toBe("");
  });
});

const corpus = fileURLToPath(new URL("corpus/", import.meta.url));
const written = readdirSync(corpus).flatMap((file) => {
  const dialect = file.replace(".sql", "");
  if (!isDialectId(dialect)) throw new Error(file);
  const list = readFileSync(corpus + file, "utf8").split(/;\n/);
  return list.map((text) => ({ dialect, text }));
});

describe("halves and mixtures", () => {
  test("a statement cut anywhere, or spliced into another, does no harm to those after it", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...written),
        fc.constantFrom(...written),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom(...dialectIds),
        (one, other, from, to, dialect) => {
          const text = one.text.slice(0, one.text.length * from) + other.text.slice(other.text.length * to);
          const { read } = review(text, { dialect });
          for (const { start, end } of read) expect(start <= end && end <= text.length).toBe(true);
        },
      ),
      { numRuns: 4000 },
    );
  });

  test("half a statement leaves the next one whole", () => {
    for (const half of [
      "SELECT",
      "UPDATE berth SET",
      "DELETE FROM berth WHERE",
      "INSERT INTO berth (",
      "CREATE TABLE x (a int",
    ]) {
      const { statements } = readScript(`${half};\nDELETE FROM vessel WHERE vessel_id = 3;`, { dialect: "sqlite" });
      expect({ half, last: statements[statements.length - 1].kind }).toEqual({ half, last: "delete" });
    }
  });

  test("random bytes are read to their end", () => {
    let seed = 7;
    let noise = "";
    for (let i = 0; i < 400_000; i++) {
      seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
      noise += String.fromCharCode(seed % 3 === 0 ? 32 + ((seed >> 8) % 95) : seed % 256);
    }
    for (const dialect of dialectIds) {
      const reader = new ScriptReader(dialect);
      reader.push(noise, true, () => {});
      expect(reader.next).toBe(noise.length);
    }
  });
});
