import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { PGlite } from "@electric-sql/pglite";
import {
  type Assignment,
  catalogFromDdl,
  type DialectId,
  type Expr,
  isDialectId,
  type Node,
  readScript,
  review,
} from "cautela";
import { walk } from "cautela/tools";
import fc from "fast-check";
import { loadModule, parseSync } from "libpg-query";
import mysql from "mysql2/promise";
import initSqlite from "sql.js";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { mariadbUrl } from "./engines.ts";
import { change, condition, value } from "./generated-sql.ts";

// The parsers of the engines are the authority on what is a statement, and on what it means.

const maria = await mariadbUrl();
await loadModule();

function accepted(sql: string): boolean {
  try {
    parseSync(sql);
    return true;
  } catch {
    return false;
  }
}

const corpus = fileURLToPath(new URL("corpus/", import.meta.url));
const statementsOf = (dialect: string) =>
  readFileSync(`${corpus}${dialect}.sql`, "utf8")
    .replace(/^--.*\n/, "")
    .split(/;\n(?:\/\n)?(?=\S|$)/)
    .filter((one) => one !== "");

describe("the corpus is read whole", () => {
  test.each(readdirSync(corpus).map((file) => file.replace(".sql", "")))("%s", (dialect) => {
    if (!isDialectId(dialect)) throw new Error(`${dialect} is no dialect`);
    for (const sql of statementsOf(dialect)) {
      const { statements, problems } = readScript(`${sql};`, { dialect });
      expect({ sql, problems, count: statements.length }).toEqual({ sql, problems: [], count: 1 });
      const [{ tree }] = statements;
      expect({ sql, problem: tree.kind === "create-routine" ? tree.problem : null }).toEqual({ sql, problem: null });
    }
  });

  test("PostgreSQL's own parser takes it too", () => {
    expect(statementsOf("postgresql").filter((sql) => !accepted(sql))).toEqual([]);
  });
});

type Json = { [key: string]: Json } | Json[] | string | number | boolean;

/** What both sides are compared by: relations with their aliases, and columns with their places. */
interface Shape {
  relations: string[];
  columns: string[];
}

function engineShape(sql: string): Shape {
  const shape: Shape = { relations: [], columns: [] };
  const visit = (node: Json): void => {
    if (Array.isArray(node)) for (const one of node) visit(one);
    if (typeof node !== "object" || Array.isArray(node)) return;
    const relation = (node.RangeVar ?? (node.relname === undefined ? undefined : node)) as Record<string, Json>;
    if (relation?.relname !== undefined) {
      const alias = relation.alias as Record<string, Json> | undefined;
      shape.relations.push(`${relation.location} ${relation.relname} ${alias?.aliasname ?? ""}`);
    }
    const column = node.ColumnRef as Record<string, Json> | undefined;
    if (column) {
      const fields = (column.fields as Record<string, Record<string, string>>[]).map(
        (field) => field.String?.sval ?? "*",
      );
      shape.columns.push(`${column.location ?? 0} ${fields.join(".")}`);
    }
    for (const [key, child] of Object.entries(node)) if (key !== "RangeVar" && key !== "ColumnRef") visit(child);
  };
  visit(parseSync(sql) as unknown as Json);
  return sorted(shape);
}

function assignmentsOf(node: Node): readonly Assignment[] {
  if (node.kind === "update") return node.assignments;
  if (node.kind === "merge") return node.whens.flatMap((when) => when.assignments);
  if (node.kind === "insert") return node.conflicts.flatMap((conflict) => conflict.assignments);
  return [];
}

function ownShape(sql: string): Shape {
  const shape: Shape = { relations: [], columns: [] };
  const targets = new Set<Node>();
  for (const { tree } of readScript(sql).statements) {
    walk(tree, (node) => {
      for (const { targets: list } of assignmentsOf(node)) for (const one of list) targets.add(one);
      if (node.kind === "table") {
        const { parts, start } = node.name;
        shape.relations.push(`${start} ${parts[parts.length - 1].text} ${node.alias?.text ?? ""}`);
      }
      if ((node.kind === "column" || node.kind === "star") && !targets.has(node)) {
        const path = node.path.map((part) => part.text);
        shape.columns.push(
          `${node.path[0]?.start ?? node.start} ${[...path, ...(node.kind === "star" ? ["*"] : [])].join(".")}`,
        );
      }
      return undefined;
    });
  }
  return sorted(shape);
}

/** In order, each once: the engine's tree repeats the source of `(a, b) = (…)` for each column. */
const sorted = ({ relations, columns }: Shape): Shape => ({
  relations: [...new Set(relations)].sort(),
  columns: [...new Set(columns)].sort(),
});

describe("PostgreSQL's parser agrees", () => {
  test("on targets, sources, aliases and columns of generated statements", () => {
    fc.assert(
      fc.property(change("postgresql"), (sql) => {
        fc.pre(accepted(sql));
        expect({ sql, ...ownShape(sql) }).toEqual({ sql, ...engineShape(sql) });
      }),
      { numRuns: 1500 },
    );
  });

  test("on where statements begin and end", () => {
    fc.assert(
      fc.property(fc.array(change("postgresql"), { minLength: 1, maxLength: 5 }), (list) => {
        const text = list.join(";\n");
        fc.pre(accepted(text));
        expect(readScript(text).statements.length).toBe(list.length);
      }),
      { numRuns: 300 },
    );
  });
});

/** An expression with parentheses around every part, as it was understood. */
function bracketed(expr: Expr, text: string): string {
  const at = (one: Expr): string => bracketed(one, text);
  switch (expr.kind) {
    case "logic":
      return `(${expr.items.map(at).join(` ${expr.op} `)})`;
    case "unary":
      return `(${expr.op} ${at(expr.operand)})`;
    case "binary":
      return `(${at(expr.left)} ${expr.op} ${at(expr.right)})`;
    case "is":
      if (expr.right) return `(${at(expr.operand)} is ${expr.negated ? "not " : ""}distinct from ${at(expr.right)})`;
      return `(${at(expr.operand)} is ${expr.negated ? "not " : ""}${expr.test})`;
    case "in":
      return `(${at(expr.operand)} ${expr.negated ? "not " : ""}in (${(expr.items ?? []).map(at).join(", ")}))`;
    case "between":
      return `(${at(expr.operand)} ${expr.negated ? "not " : ""}between ${at(expr.low)} and ${at(expr.high)})`;
    case "like":
      return `(${at(expr.operand)} ${expr.negated ? "not " : ""}${expr.op} ${at(expr.pattern)})`;
    case "case":
      return `(case ${expr.whens.map((one) => `when ${at(one.when)} then ${at(one.result)}`).join(" ")} else ${expr.otherwise ? at(expr.otherwise) : "null"} end)`;
    default:
      return text.slice(expr.start, expr.end);
  }
}

interface Evaluator {
  dialect: DialectId;
  /** The values of an expression over a small table, or the word "refused". */
  values(sql: string): Promise<string>;
  /** Whether the engine's parser takes a statement; `unsure` where it stopped for another reason. */
  takes(sql: string): Promise<"yes" | "no" | "unsure">;
  close(): Promise<void>;
}

const TABLE = "CREATE TABLE t (a integer, b integer, c integer, s varchar(10))";
const ROWS = "INSERT INTO t VALUES (1, 2, 3, 'north'), (0, NULL, -1, 'x'), (NULL, 4, 2, NULL), (3, 0, 0, 'South')";

async function postgres(): Promise<Evaluator> {
  const db = await PGlite.create();
  await db.exec(`${TABLE}; ${ROWS};`);
  return {
    dialect: "postgresql",
    async values(sql) {
      try {
        return JSON.stringify((await db.query(sql, [], { rowMode: "array" })).rows);
      } catch {
        return "refused";
      }
    },
    takes: async (sql) => (accepted(sql) ? "yes" : "no"),
    close: () => db.close(),
  };
}

async function sqlite(): Promise<Evaluator> {
  const { Database } = await initSqlite();
  const db = new Database();
  db.exec(`${TABLE}; ${ROWS};`);
  return {
    dialect: "sqlite",
    async values(sql) {
      try {
        return JSON.stringify(db.exec(sql)[0].values);
      } catch {
        return "refused";
      }
    },
    async takes(sql) {
      try {
        db.prepare(sql).free();
        return "yes";
      } catch (error) {
        // The last one is a refusal too: an ORDER BY in front of UNION.
        return /syntax error|incomplete input|unrecognized token|should come after/.test(String(error)) ? "no" : "yes";
      }
    },
    close: async () => db.close(),
  };
}

async function mariadb(url: string): Promise<Evaluator> {
  const db = await mysql.createConnection({ uri: url, rowsAsArray: true });
  await db.query("CREATE OR REPLACE TEMPORARY TABLE t (a integer, b integer, c integer, s varchar(10))");
  await db.query(ROWS);
  return {
    dialect: "mariadb",
    async values(sql) {
      try {
        return JSON.stringify((await db.query(sql))[0]);
      } catch {
        return "refused";
      }
    },
    async takes(sql) {
      try {
        await db.query("PREPARE probe FROM ?", [sql]);
        return "yes";
      } catch (error) {
        const { errno } = error as { errno: number };
        if (errno === 1064) return "no";
        // Unknown databases, tables and columns are found when all has been parsed; much else is not.
        return [1046, 1049, 1052, 1054, 1109, 1146, 1222, 1241].includes(errno) ? "yes" : "unsure";
      }
    },
    close: () => db.end(),
  };
}

const engines: [string, () => Promise<Evaluator>][] = [
  ["PostgreSQL", postgres],
  ["SQLite", sqlite],
];
if (maria) engines.push(["MariaDB", () => mariadb(maria)]);

describe.each(engines)("%s agrees", (_name, open) => {
  let engine: Evaluator;
  beforeAll(async () => {
    engine = await open();
  });
  afterAll(() => engine.close());

  test("on what binds how tightly: values with and without parentheses are the same", async () => {
    let asked = 0;
    await fc.assert(
      fc.asyncProperty(fc.oneof(condition(engine.dialect), value(engine.dialect)), async (written) => {
        const sql = `SELECT ${written} FROM t`;
        const found = await engine.values(sql);
        if (found === "refused") return;
        const { statements, problems } = readScript(sql, { dialect: engine.dialect });
        expect({ sql, problems }).toEqual({ sql, problems: [] });
        const { tree } = statements[0];
        if (tree.kind !== "select" || tree.query.body.kind !== "select") throw new Error(sql);
        const again = `SELECT ${bracketed(tree.query.body.items[0].expr, sql)} FROM t`;
        expect({ sql, again, values: await engine.values(again) }).toEqual({ sql, again, values: found });
        asked++;
      }),
      { numRuns: 600 },
    );
    expect(asked).toBeGreaterThan(150);
  });

  test("on generated statements: what it takes is read", async () => {
    let taken = 0;
    await fc.assert(
      fc.asyncProperty(change(engine.dialect), async (sql) => {
        if ((await engine.takes(sql)) !== "yes") return;
        taken++;
        expect({ sql, problems: readScript(sql, { dialect: engine.dialect }).problems }).toEqual({ sql, problems: [] });
      }),
      { numRuns: 1000 },
    );
    expect(taken).toBeGreaterThan(300);
  });

  test("on the corpus: it takes every statement of it", async () => {
    const refused: string[] = [];
    for (const sql of statementsOf(engine.dialect)) if ((await engine.takes(sql)) === "no") refused.push(sql);
    expect(refused).toEqual([]);
  });
});

test.skipIf(!maria)(
  "MariaDB agrees on dates whose year stands last: before all dates, and refused where they are written",
  async () => {
    const ddl = "CREATE TABLE stay (id integer NOT NULL PRIMARY KEY, day date, at datetime)";
    const catalog = catalogFromDdl(ddl, { dialect: "mariadb" });
    const db = await mysql.createConnection({ uri: maria ?? "" });
    await db.query(ddl.replace("CREATE", "CREATE OR REPLACE TEMPORARY"));
    const date = fc.tuple(
      fc.integer({ min: 1, max: 31 }),
      fc.integer({ min: 1, max: 12 }),
      fc.constantFrom(".", "/", "-"),
    );
    const column = fc.constantFrom("day", "at");
    await fc.assert(
      fc.asyncProperty(
        date,
        column,
        fc.constantFrom("<", "<=", "=", ">", ">=", "<>"),
        async ([day, month, sign], name, op) => {
          const written = [day, month].map((n) => String(n).padStart(2, "0")).join(sign);
          for (const text of [`${written}${sign}2021`, `${month}${sign}${day}${sign}2021`]) {
            await db.query("REPLACE INTO stay VALUES (1, '2019-05-05', '2019-05-05'), (2, '2024-01-01', '2024-01-01')");
            const said = (sql: string) =>
              review(sql, { dialect: "mariadb", catalog }).findings.find(({ hazard }) => hazard === "unclear-date")
                ?.weight;
            const removal = `DELETE FROM stay WHERE ${name} ${op} '${text}'`;
            const [{ affectedRows }] = (await db.query(removal)) as unknown as [{ affectedRows: number }];
            expect({ removal, affectedRows }).toEqual({ removal, affectedRows: said(removal) === "stop" ? 2 : 0 });
            const change = `UPDATE stay SET ${name} = '${text}' WHERE id = 1`;
            expect(said(change)).toBe("stop");
            await db.query("REPLACE INTO stay VALUES (1, NULL, NULL)");
            await expect(db.query(change)).rejects.toThrow(/Incorrect date/);
          }
        },
      ),
      { numRuns: 60 },
    );
    await db.end();
  },
);
