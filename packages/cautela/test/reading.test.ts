import { type DialectId, dialectIds, type ReadStatement, ReviewStream, readScript, review } from "cautela";
import { decodeText, ScriptReader } from "cautela/tools";
import fc from "fast-check";
import { describe, expect, test } from "vitest";

const kinds = (text: string, dialect: (typeof dialectIds)[number] = "postgresql") =>
  readScript(text, { dialect }).statements.map((statement) => statement.kind);

describe("bad input", () => {
  test.each([
    ["nothing", "", []],
    ["a lone byte-order mark", "\uFEFF", []],
    ["only comments", "-- a\n/* b */", []],
    ["lone semicolons", ";;\n;", []],
    ["an unclosed string", "DELETE FROM a WHERE b = 'x;\nSELECT 1;", ["unread", "select"]],
    ["an unclosed name", 'DELETE FROM "a WHERE b = 1;\nSELECT 1;', ["unread", "select"]],
    ["an unclosed comment", "SELECT 1;\n/* DELETE FROM a;\nSELECT 2;", ["select", "unread", "select"]],
    ["an unclosed dollar quote", "SELECT $x$ DELETE;\nSELECT 1;", ["unread", "select"]],
    [
      "an error before a whole statement",
      "SELECT * FROM\nUPDATE a SET b = 1;\nSELECT 2;",
      ["unread", "update", "select"],
    ],
    ["a missing terminator", "DELETE FROM a WHERE\nINSERT INTO b VALUES (1);", ["unread", "insert"]],
  ])("%s", (_, text, expected) => {
    expect(kinds(text)).toEqual(expected);
  });

  test("what was expected is said with its place", () => {
    const { problems } = readScript("SELECT 1;\nDELETE FORM berth;");
    expect(problems).toEqual([{ statement: 1, expected: "FROM", found: '"FORM"', start: 17, end: 21 }]);
  });

  test.each([
    ["parentheses", (n: number) => `SELECT ${"(".repeat(n)}1${")".repeat(n)}; SELECT 2;`],
    ["open parentheses", (n: number) => `SELECT ${"(".repeat(n)}; SELECT 2;`],
    ["queries", (n: number) => `${"(SELECT * FROM ".repeat(n)}a${")".repeat(n)}; SELECT 2;`],
    ["CASE", (n: number) => `SELECT ${"CASE WHEN a THEN ".repeat(n)}1${" END".repeat(n)}; SELECT 2;`],
    ["NOT", (n: number) => `SELECT ${"NOT ".repeat(n)}a; SELECT 2;`],
    ["calls", (n: number) => `SELECT ${"f(".repeat(n)}1${")".repeat(n)}; SELECT 2;`],
    ["OR", (n: number) => `DELETE FROM a WHERE b = 1${" OR b = 1".repeat(n)}; SELECT 2;`],
    ["sums", (n: number) => `SELECT 1${" + 1".repeat(n)}; SELECT 2;`],
    ["joins", (n: number) => `SELECT * FROM a${" JOIN a ON TRUE".repeat(n)}; SELECT 2;`],
    ["unions", (n: number) => `SELECT 1${" UNION SELECT 1".repeat(n)}; SELECT 2;`],
    ["quotes that do not match", (n: number) => `SELECT ${"$a$ $b ".repeat(n)}; SELECT 2;`],
    ["comments in comments", (n: number) => `${"/* ".repeat(n)}\nSELECT 2;`],
  ])(
    "100,000 nested or chained %s neither overflow nor take long",
    (_, build) => {
      for (const dialect of dialectIds) {
        // Nesting is read by the same code in all of them: the full depth in one is enough.
        const result = review(build(dialect === "postgresql" ? 100_000 : 20_000), { dialect });
        expect(result.statements.length).toBeGreaterThan(0);
      }
      // Three seconds in all; what is not linear takes hours.
    },
    300_000,
  );

  test("a statement of ten megabytes is read whole", () => {
    const values = "(1, 'x', NULL), ".repeat(650_000);
    const { statements } = readScript(`INSERT INTO a VALUES ${values}(2, 'y', 3);`);
    expect(statements.map((statement) => statement.kind)).toEqual(["insert"]);
    const tree = statements[0].tree;
    expect(tree.kind === "insert" && tree.source?.body.kind === "values" && tree.source.body.rowCount).toBe(650_001);
  });
});

describe("files", () => {
  const bytes = (...values: number[]) => new Uint8Array(values);
  test("encodings", () => {
    expect(decodeText(bytes(0xef, 0xbb, 0xbf, 0x41))).toEqual({ text: "A", encoding: "utf-8", invalidLine: null });
    expect(decodeText(bytes(0xff, 0xfe, 0x41, 0)).text).toBe("A");
    expect(decodeText(bytes(0xfe, 0xff, 0, 0x41)).text).toBe("A");
    expect(decodeText(bytes(0x41, 0x0a, 0xe4))).toEqual({ text: "A\nä", encoding: "latin-1", invalidLine: 2 });
  });
  test("every text survives UTF-8", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary" }), (text) => {
        const clean = Buffer.from(text.replace(/^\uFEFF/, ""), "utf8");
        expect(decodeText(clean).text).toBe(clean.toString("utf8"));
      }),
    );
  });
});

const STATEMENTS = [
  "SELECT a, 'x;y', \"c\" FROM t /* ; */ WHERE b = 1",
  "UPDATE t SET a = 1 -- ;\n WHERE b IN (1, 2)",
  "DELETE FROM t WHERE a LIKE '%;%'",
  "INSERT INTO t (a) VALUES (1), ('b''c')",
  "CREATE TABLE t (a int PRIMARY KEY, b varchar(10) DEFAULT ';')",
  "COMMIT",
];
const TOKENS =
  "SELECT FROM WHERE ( ) , ; ' \" $$ [ ] ` -- /* */ 1 a . * = + :x @y # { } \\ \n GO / DELIMITER BEGIN END CASE IF NOT IN EXISTS UPDATE SET DELETE MERGE".split(
    " ",
  );

/** What a client program, a comment or an open end makes of a script, by dialect. */
const LINES: Record<DialectId, string[]> = {
  postgresql: [
    "\\set a 1\n",
    "\\echo x \\quit\n",
    "\\\\",
    "\\g\n",
    "COPY t FROM STDIN;\n1\t2\n3\t4\n\\.\n",
    "COPY t FROM STDIN;\n1\t2\n",
    "DO $$ BEGIN DELETE FROM t; END $$",
    "/* a /* b */ c */",
    "$x$",
  ],
  mysql: ["DELIMITER //\n", "DELIMITER ;\n", "//\n", "\\G", "# hash\n", "/*!50000 DELETE FROM t */", "/*!99999 x */"],
  mariadb: ["DELIMITER $$\n", "DELIMITER ;\n", "$$\n", "/*M!100100 DELETE FROM t; SELECT 1 */", "use x\n", "`a``b`"],
  sqlite: [".read a.sql\n", "[a b]", "?1", "CREATE TRIGGER g AFTER INSERT ON t BEGIN DELETE FROM u; END"],
  tsql: [
    "GO\n",
    "\nGO 5\n",
    "go -- x\n",
    ":setvar x y\n",
    "!!dir\n",
    "#tmp",
    "IF 1=1 DELETE t; ELSE UPDATE t SET a=1",
    "EXEC p\n",
  ],
  plsql: [
    "/\n",
    "\n/\n",
    "PROMPT x\n",
    "@x.sql\n",
    "EXEC p\n",
    "&x",
    "q'[a'b]'",
    "BEGIN DELETE FROM t; END;\n/\n",
    "REM z\n",
  ],
  jet: ["#2020-01-01#", "[a b]"],
};
const OPEN = ["-- cautela: accept every-row it is meant\n", "-- 3 rows", "/* open", "'open", "1e", "-", "\r\n", "e'"];

/** The statements, and the review, of a script that comes in pieces. */
function inPieces(text: string, size: number, dialect: DialectId) {
  const reader = new ScriptReader(dialect);
  const stream = new ReviewStream({ dialect });
  const read: ReadStatement[] = [];
  for (let at = 0; at < text.length; at += size) {
    const last = at + size >= text.length;
    reader.push(text.slice(at, at + size), last, (statement) => read.push(statement));
    stream.push(text.slice(at, at + size), last);
  }
  const { verdict, findings, unchecked, statements, excerpts } = stream.result();
  const places = read.map(({ tree: _, ...statement }) => statement);
  return { places, trailing: reader.trailing, verdict, findings, unchecked, statements, excerpts };
}

describe("properties", () => {
  test("a stream is reviewed as the whole script, wherever its pieces are cut", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...dialectIds).chain((dialect) =>
          fc.record({
            dialect: fc.constant(dialect),
            lines: fc.array(
              fc.tuple(
                fc.constantFrom(...STATEMENTS, ...OPEN, ...LINES[dialect]),
                fc.constantFrom("", ";", "\n", ";\n", " "),
              ),
              { minLength: 1, maxLength: 14 },
            ),
          }),
        ),
        fc.constantFrom(1, 2, 3, 7, 40, 1000, 65536),
        ({ dialect, lines }, size) => {
          const text = lines.flat().join("");
          expect(inPieces(text, size, dialect)).toEqual(inPieces(text, Number.POSITIVE_INFINITY, dialect));
        },
      ),
      { numRuns: 600 },
    );
  });

  test("a stream tells its dialect as the whole script does", () => {
    const stream = new ReviewStream();
    for (const one of "DELETE FROM [dbo].[berth]\nGO\n") stream.push(one, false);
    stream.push("", true);
    expect(stream.result().dialect).toBe("tsql");
  });

  test("no text makes reading or reviewing throw", () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.constantFrom(...TOKENS), fc.string({ maxLength: 4 }), fc.constantFrom(...STATEMENTS)), {
          maxLength: 60,
        }),
        fc.constantFrom(...dialectIds),
        (parts, dialect) => {
          const text = parts.join(" ");
          const result = review(text, { dialect });
          for (const { start, end } of result.read) expect(start <= end && end <= text.length).toBe(true);
        },
      ),
      { numRuns: 3000 },
    );
  });
});
